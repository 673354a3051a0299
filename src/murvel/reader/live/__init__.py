"""Live regions, and the queue of what is to be said."""
