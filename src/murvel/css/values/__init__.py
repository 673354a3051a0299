"""Values of CSS: declarations, custom properties, lengths, colours, the user agent's defaults."""
