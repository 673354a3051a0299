"""What is kept: pages, their takes, defects with their evidence, and where the work was left, in one SQLite file."""
