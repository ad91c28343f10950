"""Work that is done by a process of its own: whatever is in a file or a driver, this process goes on."""

import asyncio
import sys
from collections.abc import AsyncIterator, Awaitable, Callable

from fulgura.children import child_environment

WAITED_FOR, BY_AND_BY = 5, 15
"""How far what somebody waits for stands behind the engine and the desk, and what comes when it comes."""


class ChildFailed(RuntimeError):
    """What the child said about why it could not do it, for the performer."""


async def stream(*words: str) -> AsyncIterator[bytes]:
    """What ``python -m WORDS`` writes, as it comes, at low priority. It ends when nobody listens any more."""
    process = await asyncio.create_subprocess_exec(
        "nice",
        "-n",
        "10",
        sys.executable,
        "-m",
        *words,
        stdout=asyncio.subprocess.PIPE,
        stderr=asyncio.subprocess.DEVNULL,
        env=child_environment(),
    )
    assert process.stdout is not None
    try:
        while chunk := await process.stdout.read(1 << 16):
            yield chunk
    finally:
        if process.returncode is None:
            process.kill()
            await process.wait()


async def run(*words: str, longest_s: float, nice: int = WAITED_FOR) -> bytes:
    """What ``fulgura WORDS`` prints, at low priority: the engine keeps its share of the processor.

    Raises ChildFailed, also when it takes longer than longest_s; the child never outlives the call.
    """
    return await follow(*words, longest_s=longest_s, nice=nice)


async def follow(
    *words: str,
    longest_s: float,
    told: Callable[[str], bool] | None = None,
    gone: Callable[[], Awaitable[bool]] | None = None,
    nice: int = WAITED_FOR,
) -> bytes:
    """As ``run``, for long work. told: hears each line as it is printed, and takes it, or leaves it to what
    is returned; gone: whether nobody waits any more: then the child is stopped, and this raises ChildFailed.
    """
    process = await asyncio.create_subprocess_exec(
        "nice",
        "-n",
        str(nice),
        sys.executable,
        "-m",
        "fulgura",
        *words,
        stdout=asyncio.subprocess.PIPE,
        stderr=asyncio.subprocess.PIPE,
        env=child_environment(),
    )

    printed, complained = process.stdout, process.stderr
    assert printed is not None and complained is not None

    async def listen() -> bytes:
        if told is None:
            return await printed.read()
        return b"".join([line async for line in printed if not told(line.decode(errors="replace").strip())])

    async def watch() -> None:
        while gone is not None and process.returncode is None:
            await asyncio.sleep(0.5)
            if await gone():
                process.kill()
                return

    watching = asyncio.create_task(watch())
    try:
        said, failed, _ = await asyncio.wait_for(
            asyncio.gather(listen(), complained.read(), process.wait()), longest_s
        )
    except TimeoutError as error:
        raise ChildFailed(f"It took longer than {longest_s:.0f} seconds.") from error
    finally:
        watching.cancel()
        if process.returncode is None:
            process.kill()
    if process.returncode != 0:
        raise ChildFailed(
            " ".join((said + failed).decode(errors="replace").split()).removeprefix("Fulgura cannot go on. ")[
                :400
            ]
        )
    return said
