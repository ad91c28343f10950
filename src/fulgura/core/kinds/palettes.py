"""Palettes that ship: a new show has them, and changes them as it likes."""

SHIPPED: dict[str, tuple[str, ...]] = {
    "Lamp oil": ("#1b1230", "#7a2f2b", "#ff7d3c", "#ffc861", "#fff3cf"),
    "Harbour": ("#06121f", "#0e4a63", "#1fa3a8", "#9fe3c8", "#f4f1de"),
    "Sodium and sea": ("#0a1a2a", "#2d6fa3", "#ffb14a", "#ff6a2b"),
    "Night garden": ("#120b22", "#4b2a7b", "#b23a8e", "#ff8fa3", "#8fd694"),
    "Signal flags": ("#e63946", "#ffd23f", "#1d78c1", "#f7f7ff", "#13a35d"),
    "Frost": ("#0b1320", "#3b5b8c", "#8fc1e3", "#e4f3ff"),
    "Copper": ("#170c08", "#6b2d12", "#c8682e", "#f2b66d", "#5fb3a1"),
    "One white": ("#17191d", "#6f7680", "#c9cfd6", "#ffffff"),
}
"""Name -> its colours. Common practice: from dark to bright, few enough to tell apart at the far end of a
room.
"""
FALLBACK = SHIPPED["Lamp oil"]
"""What entries are of while a show has no palette of colours."""
