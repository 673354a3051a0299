"""What runs checks: what a check is, the catalogue, facts of a page, leads."""
