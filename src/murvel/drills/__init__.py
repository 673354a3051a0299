"""Drills: widgets are worked by keyboard as a tester works them by hand. A session in; findings with their walk out."""
