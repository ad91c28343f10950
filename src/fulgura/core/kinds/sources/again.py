"""A layer's picture once more."""

from fulgura.core.kinds.drawn import Source
from fulgura.core.kinds.parameters import LayerRef, param


class Again(Source):
    """Another layer's picture once more, to do something else with it. From a layer above it comes one frame
    late.
    """

    title = "Another layer"
    shader = "copy.frag"

    source: LayerRef = param("", help="The layer that is shown again")
