"""The commands: parse arguments, call the core, print. Nothing is decided here."""
