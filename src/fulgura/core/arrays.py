"""The arrays that the core passes around. What they hold stands in the docstrings: shapes and units."""

from typing import Any

from numpy.typing import NDArray

Array = NDArray[Any]
