"""The checks, one module a topic. `murvel.checks.engine.catalogue` puts them together."""
