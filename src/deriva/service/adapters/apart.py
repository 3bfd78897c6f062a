"""Running a part of the service in a process of its own."""

import asyncio
import os
import sys

_turns: dict[tuple[asyncio.AbstractEventLoop, str], asyncio.Semaphore] = {}
"""One at a time of each kind, in one process of the service: the others wait. Tests have a loop each."""


class Gone(RuntimeError):
    """The process was ended before it was done: it took too long, or more memory than it may have."""


def _turn(kind: str) -> asyncio.Semaphore:
    for old in [key for key in _turns if key[0].is_closed()]:
        del _turns[old]
    return _turns.setdefault((asyncio.get_running_loop(), kind), asyncio.Semaphore(1))


async def run(
    module: str, *arguments: str, given: bytes, within_s: float, turns: str = "answers"
) -> tuple[int, bytes, bytes]:
    """Run a module of the package on some input; return its exit status, output and last words. Raises :class:`Gone`."""
    ours = ("DERIVA_", "PROMETHEUS_")  # nothing of the service's own settings goes with it
    env = {name: value for name, value in os.environ.items() if not name.startswith(ours)}
    async with _turn(turns):
        process = await asyncio.create_subprocess_exec(
            sys.executable, "-m", module, *arguments, env=env,
            stdin=asyncio.subprocess.PIPE, stdout=asyncio.subprocess.PIPE, stderr=asyncio.subprocess.PIPE,
        )  # fmt: skip
        try:
            async with asyncio.timeout(within_s):
                out, said = await process.communicate(given)
        except TimeoutError:
            raise Gone from None
        finally:
            if process.returncode is None:
                process.kill()
                await process.wait()
    if process.returncode is None or process.returncode < 0 or b"MemoryError" in said:
        raise Gone
    return process.returncode, out, said
