"""The tab stops: those that are heard, and those that are silent."""
