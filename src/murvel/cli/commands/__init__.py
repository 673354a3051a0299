"""The commands, by what they are for. Importing a module adds its commands to the application."""
