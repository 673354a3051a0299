"""Tables: which hold data, where cells stand, which headers they have."""
