"""Walks: moves on a page, each with what was heard or what is expected, kept as files and made again."""
