"""The page as it is read: items, lists, and the position in them."""
