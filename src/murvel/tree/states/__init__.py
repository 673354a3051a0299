"""States, properties, values and relations of nodes."""
