"""Teaches networks anew, in the order in which they need each other, and writes their cards:
``PYTHONPATH=src:. python -m training.chain`` for all of them, with names for some. Takes about four hours,
and PyTorch. ``--cards`` writes the cards of what is there.
"""

import argparse
import sys
import time

from training import cards, drums, hypotheses, metre, track_change, verification
from training.configurations import CONFIGURATIONS

TEACH = {
    "drums": drums.run,
    "verification": verification.run,
    "metre": metre.run,
    "hypotheses": hypotheses.run,
    "track_change": track_change.run,
}


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("names", nargs="*", choices=[*CONFIGURATIONS, []])
    parser.add_argument("--cards", action="store_true", help="write the cards only")
    asked = parser.parse_args()
    for name, configuration in CONFIGURATIONS.items():
        if asked.names and name not in asked.names:
            continue
        if not asked.cards:
            started = time.time()
            TEACH[name](configuration)
            print(f"{name}: taught in {(time.time() - started) / 60:.0f} min", file=sys.stderr, flush=True)
        cards.write(name)


if __name__ == "__main__":
    main()
