from fulgura.core.kinds.drawn import Source


class Group(Source):
    """Layers that are mixed with each other first; its effects, its place and its blend act on all of them at
    once.
    """

    shader = "copy.frag"
