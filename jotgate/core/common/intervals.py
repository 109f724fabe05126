"""Intervals that hold the true value so and so often."""

from math import sqrt

Z_95 = 1.959964
"""Of the normal distribution, for an interval that holds nineteen times in twenty."""


def share_interval(hits: float, of: float, z: float = Z_95) -> tuple[float, float]:
    """Wilson's score interval for a share (E. B. Wilson, 1927): from and to, each from 0 to 1."""
    if not of:
        return 0.0, 1.0
    share, square = hits / of, z * z
    middle = (share + square / (2 * of)) / (1 + square / of)
    half = z * sqrt(share * (1 - share) / of + square / (4 * of * of)) / (1 + square / of)
    return max(middle - half, 0.0), min(middle + half, 1.0)


def mean_interval(mean: float, deviation: float, count: int) -> tuple[float, float] | None:
    """95 % interval for a mean of `count` values, by Student's t; `deviation` is that of a sample.
    None for fewer than two values."""
    if count < 2:
        return None
    from scipy.special import stdtrit  # half a second, which only figures have to wait for

    half = float(stdtrit(count - 1, 0.975)) * deviation / sqrt(count)
    return mean - half, mean + half
