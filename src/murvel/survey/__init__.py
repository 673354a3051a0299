"""The survey: a session and its leads in, lists of one page out, each entry to be judged by a person."""
