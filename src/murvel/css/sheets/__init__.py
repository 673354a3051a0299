"""Style sheets as text: their rules, their conditions, what of them is kept."""
