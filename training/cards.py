"""The card beside a file of weights: what it does, what went in, how well it does, and how it is made."""

import hashlib
import json
import re
from dataclasses import asdict
from pathlib import Path

from fulgura.core.sound.models import drums
from fulgura.folders import ROOT
from training.configurations import CONFIGURATIONS, MATERIAL, PACKAGES, PLAYERS, SHIPPED, TORCH

MODELS = Path(drums.__file__).parent
DOES = {
    "drums": "How likely kick, snare and hat sound in this block: three networks, first look.",
    "verification": "Whether what was noticed is that drum: three networks that look up to 21 ms longer.",
    "metre": "Which beats are the first of a bar: three networks.",
    "hypotheses": "Which of the likeliest tempi fits what was heard: three networks.",
    "track_change": "Whether another record began: three networks.",
}
TABLE = "docs/listening.md"
JUDGED_ON = "besides, 7 drum sets that were never taught"
METRICS = {
    "drums": ("kick F", "snare F", "hat F"),
    "verification": ("kick F", "snare F", "hat F"),
    "metre": ("counted right", "one or three"),
    "hypotheses": ("beat F", "AMLt"),
    "track_change": ("locked again within 4 beats", "in 6 s"),
}
CUT_IN = "besides, another record cut in, at another tempo (beats only)"


def sha256(file: Path) -> str:
    """Of a file's bytes, in hexadecimal."""
    return hashlib.sha256(file.read_bytes()).hexdigest()


def card(name: str) -> dict:
    """The card of a network as it should be now."""
    locked = (ROOT / "requirements.lock").read_text()
    return {
        "file": f"{name}.npz",
        "sha256": sha256(MODELS / f"{name}.npz"),
        "does": DOES[name],
        "configuration": json.loads(json.dumps(asdict(CONFIGURATIONS[name]))),
        "command": f"python -m training.chain {name}",
        "shipped": SHIPPED[name],
        "taught_by": {"torch": TORCH},
        "made_with": {package: re.search(rf"(?m)^{package}==([^ ]+)", locked)[1] for package in PACKAGES}
        | PLAYERS,
        "material": {package: {"version": row[0], "licence": row[1]} for package, row in MATERIAL.items()},
        "metrics": {"table": TABLE, "clips": _clips(name), **_metrics(name)},
    }


def _clips(name: str) -> str:
    return CUT_IN if name == "track_change" else JUDGED_ON


def _metrics(name: str) -> dict[str, str]:
    """From the table that ./fulgura bench --listening --write made."""
    rows = [
        [cell.strip() for cell in line.strip("| \n").split(" | ")]
        for line in (ROOT / TABLE).read_text().splitlines()
        if line.startswith("| ")
    ]
    head, own = rows[0], next(row for row in rows if row[0] == _clips(name))
    return {column: own[head.index(column)] for column in METRICS[name]}


def write(name: str) -> None:
    """Put the card beside the weights."""
    text = json.dumps(card(name), indent=2, ensure_ascii=False) + "\n"
    (MODELS / f"{name}.json").write_text(text)
