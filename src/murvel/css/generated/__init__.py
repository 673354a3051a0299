"""Generated content: counters, list markers, quotation marks."""
