"""Looks that checks ask for and speech rarely rests on: sizes, borders, backgrounds, containers."""
