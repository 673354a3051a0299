"""Bytes in, a Document out: sources, encodings, HTML parsing, the CSS that changes speech, places in the source."""
