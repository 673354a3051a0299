"""Moves: what each does with the position, and what it costs to come to a place."""
