"""The solids that shaders can draw many of; their corners stand in solids.glsl."""

SOLIDS = ("box", "ball", "tetrahedron", "plane")
VERTICES = (36, 288, 12, 6)
"""Of each."""
