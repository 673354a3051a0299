"""Trees as data: written, imported, compared with a browser's own."""
