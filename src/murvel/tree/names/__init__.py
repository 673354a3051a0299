"""Names and descriptions, each with the trace of its computation."""
