"""What a real browser made of a page -> Document and Styles: captures, as they come from a browser or from a file."""
