"""What scipy does for sound. It is loaded when it is first needed: that takes longer than all else of a start."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np

from velmot.core.time.ticks import Floats

_DIED_AWAY = 1e-100
_STRETCH = 1 << 15


def filtered(
    b: Iterable[float], a: Iterable[float], samples: Floats, axis: int = -1, state: Floats | None = None
) -> Any:
    """Samples through a filter of coefficients b and a; with a state, (samples, the state after them), along the first axis.

    What a state still knows of a sound that died away long ago is forgotten every so often: numbers near the smallest
    there are take a processor twenty times as long.
    """
    from scipy.signal import lfilter

    if state is None:
        return lfilter([*b], [*a], samples, axis=axis)
    parts = []
    for at in range(0, max(len(samples), 1), _STRETCH):
        part, state = lfilter([*b], [*a], samples[at : at + _STRETCH], axis=0, zi=state)
        state[np.abs(state) < _DIED_AWAY] = 0.0
        parts.append(part)
    return (parts[0] if len(parts) == 1 else np.concatenate(parts)), state


def spectrum(samples: np.ndarray, size: int) -> np.ndarray:
    """The spectrum of real samples along their first axis."""
    from scipy.fft import rfft

    return np.asarray(rfft(samples, size, axis=0))


def samples_of(spectrum: np.ndarray) -> np.ndarray:
    """The samples of a spectrum, as many as an even size has."""
    from scipy.fft import irfft

    return np.asarray(irfft(spectrum, axis=0))


def fast_size(frames: int) -> int:
    """An even size, at least so many frames, whose spectrum is quickly found."""
    from scipy.fft import next_fast_len

    return 2 * int(next_fast_len((frames + 1) // 2, real=True))


def load() -> None:
    """Load it now, beside other work."""
    import scipy.fft
    import scipy.signal  # noqa: F401
