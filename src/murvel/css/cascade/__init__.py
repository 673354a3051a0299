"""The cascade: from the rules of all sheets to the style of each element."""
