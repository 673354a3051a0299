"""The dialogs: each is a modal screen that answers with what was entered, or with nothing."""
