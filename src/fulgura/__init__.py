"""Listens to music, moves pictures and stage lights with it."""

VERSION = "0.1.0"
