"""The words of a voice: a table for each language, and what is made of them."""
