"""What commands print as JSON: plain dicts and lists, with one shape for a place, an announcement and a lead."""
