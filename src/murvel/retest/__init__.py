"""Re-test: the elements of an earlier take found again in a later one, and what became of defects and verdicts."""
