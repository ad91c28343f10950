"""What docs/jobs.md says of the steps that jobs take; that it is true, the jobs themselves count."""

import re

from tests.desk.jobs.hands import DOCS, promised

MOST = 180
"""What the eleven jobs may take together: a bound of our own, from 295 before."""


def test_the_eleven_jobs_together_take_few_steps():
    steps = promised()
    assert len(steps) == 11 and sum(steps.values()) <= MOST
    said = re.search(r"Now they take (\d+)\.", DOCS.read_text())
    assert said and int(said.group(1)) == sum(steps.values())
    # Each of them is a test that counts.
    told = "".join(path.read_text() for path in DOCS.parents[1].glob("tests/desk/jobs/test_*.py"))
    assert set(re.findall(r'hands\.finished\("(J\d\d)"\)', told)) == set(steps)
