"""A page as a whole: bytes in, a styled document out, from HTML alone or as a browser captured it."""
