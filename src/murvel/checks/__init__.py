"""Checks: a page's tree and readout in, leads out; one module a topic, each check a small function with its texts."""
