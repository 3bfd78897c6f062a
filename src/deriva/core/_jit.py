"""The only place that knows whether numba is there.

A kernel is written once, in scalar Python over indexable vectors. With numba it is compiled and its vectors are
numpy arrays; without (on the phone) it runs as it stands, over lists. ``kernel.py_func`` does not exist on the phone.
"""

from collections.abc import Callable, Iterable
from importlib import import_module
from typing import TYPE_CHECKING, Any, Protocol, TypeVar, cast

F = TypeVar("F", bound=Callable[..., Any])
V = TypeVar("V")


class Vector(Protocol):
    """What a kernel may assume of numbers in a row: indexable, assignable, of fixed length. Lists and arrays are."""

    def __len__(self) -> int: ...
    def __getitem__(self, place: int, /) -> float: ...
    def __setitem__(self, place: int, value: float, /) -> None: ...


class Places(Protocol):
    """The same of whole numbers."""

    def __len__(self) -> int: ...
    def __getitem__(self, place: int, /) -> int: ...
    def __setitem__(self, place: int, value: int, /) -> None: ...


if TYPE_CHECKING:
    COMPILED: bool

    def jit(function: F) -> F: ...
    def jit_inline(function: F) -> F: ...
    def jit_fast(function: F) -> F: ...
    def jit_free(function: F) -> F: ...
    def vector(values: Iterable[float]) -> Vector: ...
    def int_vector(values: Iterable[int]) -> Places: ...
    def numbers(values: Vector) -> list[float]: ...
    def whole_numbers(values: Places) -> list[int]: ...
    def first_of(values: V, count: int) -> V: ...
else:

    def first_of(values, count):
        """Return the first of a vector's numbers, as a kernel wants them."""
        return values[:count]

    # by name: nothing that a phone needs may import them
    try:
        numpy = import_module("numpy")
        njit = import_module("numba").njit
    except ImportError:
        COMPILED = False

        def jit(function):
            """Leave the kernel as plain Python."""
            return function

        jit_inline = jit_fast = jit_free = jit
        vector = list
        int_vector = list
        numbers = list
        whole_numbers = list
    else:
        COMPILED = True

        def jit(function):
            """Compile the kernel, keeping the machine code on disk for the next process."""
            return njit(cache=True, error_model="numpy")(function)

        def jit_inline(function):
            """Compile a piece of a kernel into every kernel that calls it: a tenth of the time of a short one is its call."""
            return njit(error_model="numpy", inline="always")(function)

        def jit_fast(function):
            """Compile a kernel of the server's that may reorder its sums, but not disregard NaN or infinity."""
            loose = {"contract", "reassoc", "arcp", "nsz", "afn"}
            return njit(cache=True, error_model="numpy", fastmath=loose)(function)

        def jit_free(function):
            """Compile a kernel of the server's that lets other threads run beside it.

            Its sums keep their order: with leave to reorder them, a sweep that passes through infinity went wrong.
            """
            return njit(cache=True, error_model="numpy", nogil=True)(function)

        def vector(values):
            """Return the values as a kernel wants them."""
            return numpy.array(list(values), dtype=numpy.float64)

        def numbers(values):
            """Return a vector as plain numbers."""
            return values.tolist()

        whole_numbers = numbers

        def int_vector(values):
            """Return the integers as a kernel wants them."""
            return numpy.array(list(values), dtype=numpy.int64)


def uncompiled(function: F) -> F:
    """Return the uncompiled kernel (itself where nothing is compiled), for tests and for speed ratios."""
    return cast(F, getattr(function, "py_func", function))
