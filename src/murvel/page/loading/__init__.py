"""Where pages come from, and what may be read for them."""
