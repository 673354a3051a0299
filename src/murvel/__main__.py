"""Lets `python -m murvel` do what `murvel` does."""

from murvel.cli.main import run

if __name__ == "__main__":
    run()
