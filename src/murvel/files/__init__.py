"""Files a person gives or gets: settings are read and checked in one way, and what is written replaces a file whole."""
