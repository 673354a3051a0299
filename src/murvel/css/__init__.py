"""Style sheets in, a computed Style on every element out; only the properties that change what is exposed or said."""
