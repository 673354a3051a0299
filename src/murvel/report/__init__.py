"""What leaves: documents for the people who repair, made from a casebook."""
