"""Why not? Of lamps: what keeps a function from showing what is wanted of it."""

from fulgura.core.routing.telemetry import Reason, Telemetry
from fulgura.core.show.document import Show
from fulgura.core.show.edits import SetValue


def group_targets(show: Show, path: str, target: str) -> list[str]:
    """Addresses of the groups' parameters that move one of a lamp, whose path this is."""
    id, name = path.split("/")[2], target.partition(".")[2]
    return [f"{group.id}.{name}" for group in show.groups if id in group.members]


def why_lamp(show: Show, path: str, name: str, telemetry: Telemetry) -> list[Reason]:
    """What holds a function of a lamp or a group back. path: of its part in the document."""
    reasons: list[Reason] = []
    if show.lights.frozen:
        edit = SetValue(path="/lights/frozen", value=False)
        reasons.append(Reason(text="All lamps are frozen.", cure="Let them go on", edit=edit))
    id = path.split("/")[2]
    lamp = next((lamp for lamp in show.lamps if lamp.id == id), None)
    if lamp is not None and name in lamp.parked:
        rest = {other: value for other, value in lamp.parked.items() if other != name}
        edit = SetValue(path=f"/lamps/{id}/parked", value=rest)
        reasons.append(Reason(text="It is parked.", cure="Let it go on", edit=edit))
    if name not in ("level", "colour"):
        return reasons
    members = {id, *(member for group in show.groups if group.id == id for member in group.members)}
    if members & telemetry.held_back:
        edit = SetValue(path="/lights/strobe", value=True)
        text = "It would flash more than three times a second."
        reasons.append(Reason(text=text, cure="Allow fast flashes", edit=edit))
    if show.lights.part.values["grand"] == 0.0:
        edit = SetValue(path="/lights/part/values/grand", value=1.0)
        reasons.append(Reason(text="The grand master is down.", cure="Grand master up", edit=edit))
    for group in show.groups:
        if (id == group.id or id in group.members) and group.part.values["master"] == 0.0:
            edit = SetValue(path=f"/groups/{group.id}/part/values/master", value=1.0)
            reasons.append(
                Reason(text=f"The master of “{group.name}” is down.", cure="Up with it", edit=edit)
            )
    for chase in show.chases:
        reasons += _chased(show, chase.id, id)
    if lamp is not None and name == "colour" and lamp.fixture.values.get("level") == 0.0:
        reasons.append(Reason(text="Its hand level is 0: a dark lamp has no colour."))
    return reasons


def _chased(show: Show, chase_id: str, id: str) -> list[Reason]:
    chase = next(chase for chase in show.chases if chase.id == chase_id)
    if chase.part.values["how"] != "instead":
        return []
    groups = {group.id: group for group in show.groups}
    return [
        Reason(
            text=f"The chase “{chase.name}” stands in for it.",
            cure="Stop it there",
            edit=SetValue(path=f"/chases/{chase.id}/runs/{run.id}/part/values/running", value=False),
        )
        for run in chase.runs
        if run.part.values["running"]
        and run.group in groups
        and (id == run.group or id in groups[run.group].members)
    ]
