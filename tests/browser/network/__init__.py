"""A network of its own with a web, a neighbour and this machine, and a page that tries every way to each of them."""
