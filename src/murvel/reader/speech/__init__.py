"""Facts in, utterances out: voices, pronunciation, listening time."""
