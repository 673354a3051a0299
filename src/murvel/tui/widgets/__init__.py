"""The widgets of the views; each shows what the core's session holds and sends messages."""
