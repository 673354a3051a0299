"""A real Chromium over the DevTools protocol: what it makes of a page, for capture and for proof (optional extra)."""
