"""Tables that checks rest on: WCAG, ARIA, autofill, words in several languages."""
