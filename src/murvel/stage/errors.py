"""What can go wrong on the stage: a sentence a person can act on."""


class StageError(Exception):
    """A cue file that cannot be used."""
