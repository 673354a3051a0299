"""A Tree in, utterances out: the readout, the voice, jumps, listening time, and the session that owns the cursor."""
