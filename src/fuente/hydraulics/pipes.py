"""Head lost in pipes, hoses and fittings."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from fluids.friction import Clamond

from fuente.errors import FuenteError
from fuente.water.properties import GRAVITY, Water, water

SMOOTH_PLASTIC = 1.5e-6  # m, drawn plastic pipe
VINYL_HOSE = 5e-6  # m
CORRUGATED_SHARE = 0.04  # of the bore

_LAMINAR_END, _TURBULENT_START = 2000.0, 4000.0
_BLEND = math.log(_TURBULENT_START / _LAMINAR_END)
_LOG = 2 / math.log(10)
_SMALL = 1e-300


def friction_factor(reynolds: float, relative_roughness: float) -> float:
    """Darcy friction factor. Reynolds number > 0, roughness / bore 0 to 0.05.

    64/Re below 2 000; the exact Colebrook equation (solved after Clamond 2009) above 4 000; between them a smooth
    blend in log Re, so that loss always rises with flow. 2 % in smooth plastic, 15 % in the blend.

    64/Re where it is laminar; 0.0222 on Moody's chart at Re 10⁵ and a roughness of 0.001.

    >>> friction_factor(1000.0, 0.0), round(friction_factor(1e5, 0.001), 4)
    (0.064, 0.0222)
    """
    if reynolds <= _LAMINAR_END:
        return 64.0 / reynolds if reynolds > _SMALL else math.inf
    if reynolds >= _TURBULENT_START:
        return float(Clamond(reynolds, relative_roughness))
    x = math.log(reynolds / _LAMINAR_END) / math.log(_TURBULENT_START / _LAMINAR_END)
    weight = x * x * (3 - 2 * x)
    return (1 - weight) * 64.0 / reynolds + weight * float(Clamond(reynolds, relative_roughness))


def _friction_exponent(reynolds: float, relative_roughness: float, f: float) -> float:
    """d ln f / d ln Re: exact for laminar flow and Colebrook's equation, by difference in the blend."""
    if reynolds <= _LAMINAR_END:
        return -1.0
    if reynolds < _TURBULENT_START:
        step = 1e-6
        return (math.log(friction_factor(reynolds * (1 + step), relative_roughness)) - math.log(f)) / step
    x = f**-0.5
    g = 0.8685889638 * 2.51 / (reynolds * 10 ** (-x / 2))
    slope: float = -2 * g / (1 + g)
    return slope


def friction_factors(reynolds: np.ndarray, relative_roughness: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """friction_factor for arrays of one shape (n,), and d ln f / d ln Re; Reynolds numbers above zero.

    Colebrook's equation by two third-order steps (Halley) from Haaland's formula, to 1e-12.
    """
    laminar = 64.0 / reynolds
    fast = reynolds > _LAMINAR_END
    if not fast.any():
        return laminar, np.full_like(reynolds, -1.0)
    re = np.maximum(reynolds, _LAMINAR_END)
    rough = relative_roughness / 3.7
    pull = 2.51 / re
    x = -_LOG * 0.9 * np.log(rough**1.11 + 6.9 / re)
    for _ in range(2):
        inside = rough + pull * x
        part = pull / inside  # d ln(inside) / dx
        rest = x + _LOG * np.log(inside)
        slope = 1 + _LOG * part
        x -= rest / (slope + 0.5 * rest * _LOG * part * part / slope)
    f = 1.0 / (x * x)
    g = _LOG * pull / (rough + pull * x)
    exponent = -2 * g / (1 + g)
    if (re >= _TURBULENT_START).all():
        return f, exponent
    y = np.minimum(np.log(re / _LAMINAR_END) / _BLEND, 1.0)
    weight, weight_slope = y * y * (3 - 2 * y), 6 * y * (1 - y) / _BLEND
    mixed = (1 - weight) * laminar + weight * f
    along = (-(1 - weight) * laminar + weight * f * exponent + weight_slope * (f - laminar)) / mixed
    return np.where(fast, mixed, laminar), np.where(fast, along, -1.0)


def spray_bar_k(bore: float, holes: int, hole: float) -> float:
    """Loss coefficient on a bore in m of a bar with so many holes of a diameter in m: the jets' speed head over C² =
    0.62².

    Holds while the holes together are under the bore, so that all get the same; ±15 %.
    """
    return (bore**2 / (0.62 * holes * hole**2)) ** 2


@dataclass(frozen=True)
class Pipe:
    """A run of pipe with its fittings.

    bore m, length m (≥ 0), k the sum of loss coefficients on this bore (≥ 0), roughness m.
    """

    bore: float
    length: float
    k: float = 0.0
    roughness: float = SMOOTH_PLASTIC
    water: Water = field(default_factory=water)

    def __post_init__(self) -> None:
        if not self.bore > 0:
            raise FuenteError("A pipe needs a bore above zero.")
        if self.length < 0 or self.k < 0:
            raise FuenteError("A pipe's length and losses cannot be negative.")

    @cached_property
    def area(self) -> float:
        """Cross-section, m²."""
        return math.pi / 4 * self.bore**2

    @cached_property
    def _fixed(self) -> tuple[float, float, float, float, float]:
        """What its laws take of it: relative roughness, that under Colebrook's logarithm, 2.51·ν/D in m/s, length in
        bores, and the speed in m/s at which all of it is turbulent.
        """
        rough, thick = self.roughness / self.bore, self.water.kinematic / self.bore
        return rough, rough / 3.7, 2.51 * thick, self.length / self.bore, _TURBULENT_START * thick

    def reynolds(self, flow: float) -> float:
        """Reynolds number at a flow in m³/s."""
        return abs(flow) / self.area * self.bore / self.water.kinematic

    def friction(self, flow: float) -> float:
        """Darcy friction factor at a flow in m³/s."""
        return friction_factor(self.reynolds(flow), self.roughness / self.bore)

    def head_loss(self, flow: float) -> float:
        """Head in m lost at a flow in m³/s; odd in flow. Darcy–Weisbach; ±10 %, most of it in the fittings."""
        if flow == 0:
            return 0.0
        speed = abs(flow) / self.area
        rough, _, _, straight, turbulent = self._fixed
        f = friction_factor(_TURBULENT_START * speed / turbulent, rough)
        return math.copysign((f * straight + self.k) * speed * speed / (2 * GRAVITY), flow)

    def loss_and_slope(self, flow: float) -> tuple[float, float]:
        """Head loss in m and its derivative by flow, s/m², for flow > 0."""
        if flow <= 0:
            return 0.0, 0.0
        speed = flow / self.area
        rough, _, _, straight, turbulent = self._fixed
        reynolds = _TURBULENT_START * speed / turbulent
        f = friction_factor(reynolds, rough)
        head = speed * speed / (2 * GRAVITY)
        along = f * straight * head
        local = self.k * head
        return along + local, (along * (2 + _friction_exponent(reynolds, rough, f)) + 2 * local) / flow

    def flow_at(self, head: float) -> float:
        """Flow in m³/s that loses a head in m; odd in head. The inverse of head_loss, to 1e-10 relative."""
        return self.flow_and_slope(head)[0]

    def flow_and_slope(self, head: float) -> tuple[float, float]:
        """Flow in m³/s at a head in m, and its derivative by head, m²/s."""
        size = abs(head)
        if self.length == 0 or (self.k > 0 and size > 1e-3 and self.length < self.bore * 1e-3):
            k = max(self.k, 1e-9)
            soft = 1e-5  # m: slow water is viscous and its loss straight
            root = (size * size + soft * soft) ** 0.25
            scale = self.area * math.sqrt(2 * GRAVITY / k)
            flow = scale * head / root
            return flow, scale * (1 / root - 0.5 * size * size / (root**5))
        if size < 1e-12:
            laminar = 32 * self.water.kinematic * self.length / (GRAVITY * self.bore**2) / self.area
            return head / laminar, 1 / laminar
        speed, by_loss = self._turbulent(size)
        if speed >= self._fixed[4]:
            flow = math.copysign(speed * self.area, head)
            return flow, abs(flow) * by_loss / size
        speed = self._slow(size)
        # ln(loss) against ln(flow) is nearly straight: each step squares what is still off. It bends where turbulence
        # begins, and the two sides hold it.
        at, slope, low, high = math.log(speed), 1.85, -math.inf, math.inf
        for _ in range(60):
            loss, slope = self._loss_and_log_slope(speed)
            error = math.log(loss / size)
            if error > 0:
                high = at
            else:
                low = at
            at -= error / slope
            if not low < at < high and abs(error) > 1e-12:
                at = (low + high) / 2
            speed = math.exp(at)
            if abs(error) < 1e-6:
                break
        flow = math.copysign(speed * self.area, head)
        return flow, abs(flow) / (slope * size)

    def _turbulent(self, head: float) -> tuple[float, float]:
        """Speed in m/s at a head in m, and d ln speed / d ln head, where all of it is turbulent.

        Colebrook's equation gives the friction factor outright from w = v √f, so that only w is sought.
        """
        _, rough, thin, straight, _ = self._fixed
        k, target = self.k, 2 * GRAVITY * head
        w = math.sqrt(target / (straight + k / 0.022))
        inverse, bend, by_w = 1.0, 0.0, 2.0
        for _ in range(8):
            inside = rough + thin / w
            inverse = -_LOG * math.log(inside)  # 1 / √f
            if inverse <= 0:  # so slow that there is no such flow
                return 0.0, 0.0
            bend = _LOG * thin / (w * inside)  # d inverse / d ln w
            along = straight + k * inverse * inverse
            by_w = 2 + 2 * k * inverse * bend / along
            step = -math.log(along * w * w / target) / by_w
            w *= math.exp(step)
            inverse += bend * step
            if abs(step) < 1e-7:  # each step squares what is still off
                break
        return w * inverse, (1 + bend / inverse) / by_w

    def _slow(self, head: float) -> float:
        """The same where it is laminar: exact there, and near enough between laminar and turbulent."""
        laminar = 32 * self.water.kinematic * self.length / (GRAVITY * self.bore**2)  # m of head at 1 m/s
        local = self.k / (2 * GRAVITY)
        return 2 * head / (laminar + math.sqrt(laminar * laminar + 4 * local * head))

    def _loss_and_log_slope(self, speed: float) -> tuple[float, float]:
        """Head lost in m at a speed in m/s, and d ln loss / d ln speed."""
        rough, _, _, straight, turbulent = self._fixed
        reynolds = _TURBULENT_START * speed / turbulent
        f = friction_factor(reynolds, rough)
        along = f * straight
        total = along + self.k
        slope = 2 + _friction_exponent(reynolds, rough, f) * along / total
        return total * speed * speed / (2 * GRAVITY), slope
