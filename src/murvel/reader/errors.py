"""What can go wrong while reading: a sentence a person can act on."""


class ReaderError(Exception):
    """A voice, cue file or move that cannot be used."""
