"""The application: screens and widgets over the core. No decision about speech, trees or defects is taken here."""
