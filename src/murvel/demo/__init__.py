"""Fernhollow Allotments: pages made up for trying things out, each as found and as repaired, and a tour of them."""
