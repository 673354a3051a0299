"""The checks, one module a topic. `murvel.checks.catalogue` puts them together."""
