"""Roots of many small polynomials at once, by the eigenvalues of their companion matrices."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Floats


def real_roots(coefficients: Floats, low: float, high: float) -> Floats:
    """Real roots in an interval of polynomials (n, degree + 1), highest power first: (n, degree), others set to `low`.

    Roots that come out slightly off the real line are taken too: a double one does.
    """
    roots = _quadratic(coefficients) if coefficients.shape[1] == 3 else _roots(coefficients)
    real = roots.real
    near = (np.abs(roots.imag) < (high - low) / 16) & (real > low) & (real < high)
    return np.where(near, real, low)


def circle_roots(coefficients: np.ndarray) -> Floats:
    """Angles of the roots near the unit circle of complex polynomials (n, degree + 1): (n, degree), the rest 0."""
    roots = _roots(coefficients)
    near = np.abs(np.abs(roots) - 1.0) < 0.1
    return np.where(near, np.angle(roots), 0.0)


def _quadratic(coefficients: Floats) -> np.ndarray:
    """Both roots, that of the larger size first, so that none is a difference of nearly equal numbers.

    Source: W. H. Press et al., Numerical Recipes, section 5.6, q = −(b + sgn(b)√(b² − 4ac))/2, x = q/a and c/q.
    """
    a, b, c = coefficients.T.astype(np.complex128)
    root = np.sqrt(b * b - 4 * a * c)
    q = -(b + np.where(b.real < 0, -root, root)) / 2
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.nan_to_num(np.column_stack([q / a, c / q]), nan=0.0, posinf=np.inf, neginf=-np.inf)


def _roots(coefficients: np.ndarray) -> np.ndarray:
    n, size = coefficients.shape
    lead = coefficients[:, :1]
    scale = np.abs(coefficients).max(axis=1, keepdims=True)
    least = np.finfo(float).eps * np.where(scale > 0, scale, 1.0)
    lead = np.where(np.abs(lead) < least, least, lead)  # a lower degree: its missing roots go far off
    companion = np.zeros((n, size - 1, size - 1), dtype=coefficients.dtype)
    companion[:, 0, :] = -coefficients[:, 1:] / lead
    steps = np.arange(size - 2)
    companion[:, steps + 1, steps] = 1.0
    return np.linalg.eigvals(companion)
