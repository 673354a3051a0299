"""Questions about a page that several checks ask."""
