"""The views: one file each, with its actions, keys and what it shows. `registry` lists them."""
