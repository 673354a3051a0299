"""A tree that follows its document: what is stale is made anew."""
