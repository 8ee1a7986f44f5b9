"""The cheapest basket over all suppliers' offers, exactly: a mixed-integer program, and nothing of the database.

Money in cents. All units of an offer cost the price of the break their number reaches (all-units discount); units come in whole
packs; a supplier that is used takes its postage once, and its goods must reach its minimum order. What is bought beyond the needs,
to fill a pack, reach a break or a minimum, goes into the drawer.
"""

import math
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import csr_array

TIME_S = 5.0
WHOLE = 1e-6
MOST_KEPT = 64  # baskets: of a workshop a handful, each with its offers some 100 kB


@dataclass(frozen=True, slots=True)
class Needed:
    """So many of a part or of any that may stand in for it, within so many days."""

    need_id: str
    quantity: int
    parts: tuple[str, ...]
    within_days: int | None = None


@dataclass(frozen=True, slots=True)
class Offered:
    """A supplier's price for a part: (from how many, cents each), ascending; whole packs; so many there, None for enough."""

    offer_id: str
    part: str
    supplier: str
    breaks: tuple[tuple[int, int], ...]
    pack: int = 1
    available: int | None = None


@dataclass(frozen=True, slots=True)
class Shop:
    """What a supplier asks besides its prices, and how long it takes."""

    supplier: str
    postage_c: int
    minimum_c: int
    days: int


@dataclass(frozen=True, slots=True)
class BoughtLine:
    """Units of one offer at one price, and which needs they serve."""

    offer: Offered
    units: int
    each_c: int
    serves: tuple[tuple[str, int], ...]

    @property
    def cost_c(self) -> int:
        """Units times price."""
        return self.units * self.each_c


@dataclass(frozen=True, slots=True)
class Basket:
    """What to buy; `missing` is what nobody offers in time; `gap` is 0 for the proved optimum, else how far it may be off."""

    lines: tuple[BoughtLine, ...] = ()
    postage_c: Mapping[str, int] = field(default_factory=dict)
    missing: tuple[tuple[str, int], ...] = ()
    gap: float = 0.0

    @property
    def total_c(self) -> int:
        """Goods and postage."""
        return sum(line.cost_c for line in self.lines) + sum(self.postage_c.values())


def cheapest(needs: Sequence[Needed], offers: Sequence[Offered], shops: Sequence[Shop], *, time_s: float = TIME_S) -> Basket:
    """The cheapest basket that meets as many units of the needs as can be met in time."""
    if not needs:
        return Basket()
    program = _Program(needs, offers, {shop.supplier: shop for shop in shops})
    found = program.solve(missing=0, time_s=time_s)
    if found is None:
        least = program.least_missing(time_s=time_s)
        found = program.solve(missing=least, time_s=time_s) if least is not None else None
    return found or Basket(missing=tuple((need.need_id, need.quantity) for need in needs), gap=math.inf)


def cheapest_kept(needs: tuple[Needed, ...], offers: tuple[Offered, ...], shops: tuple[Shop, ...], time_s: float) -> Basket:
    """The same, kept in memory for who looks at the list again; what was not proved in its time is sought anew."""
    try:
        return _proved(needs, offers, shops, time_s)
    except _Unproved as found:
        return found.basket


class _Unproved(Exception):
    def __init__(self, basket: Basket) -> None:
        self.basket = basket


@lru_cache(maxsize=MOST_KEPT)
def _proved(needs: tuple[Needed, ...], offers: tuple[Offered, ...], shops: tuple[Shop, ...], time_s: float) -> Basket:
    basket = cheapest(needs, offers, shops, time_s=time_s)
    if basket.gap > 0:
        raise _Unproved(basket)
    return basket


class _Program:
    """Columns and rows of the program; every row is low ≤ Σ coefficient × column ≤ high."""

    def __init__(self, needs: Sequence[Needed], offers: Sequence[Offered], shops: Mapping[str, Shop]) -> None:
        self.needs, self.shops = needs, shops
        self.cost: list[float] = []
        self.upper: list[float] = []
        self.whole: list[int] = []
        self.rows: list[dict[int, float]] = []
        self.low: list[float] = []
        self.high: list[float] = []
        self.used = {name: self._column(shop.postage_c, 1) for name, shop in shops.items()}
        self.missing = [self._column(0, need.quantity) for need in needs]
        serving: dict[int, list[int]] = defaultdict(list)
        self.offers: list[tuple[Offered, int, int, dict[int, int]]] = []  # with its units, its price and whom it serves
        goods: dict[str, dict[int, float]] = defaultdict(dict)
        for offer in (offer for offer in offers if offer.supplier in shops):
            served = [k for k, need in enumerate(needs) if offer.part in need.parts and self._in_time(need, offer)]
            top = self._most(offer, [needs[k] for k in served])
            filler = not served and self.shops[offer.supplier].minimum_c > 0  # nobody waits for it: it fills a minimum order
            if not (served or filler) or top < 1:
                continue
            packs = self._column(0, top // offer.pack)
            brackets: list[tuple[int, int, dict[int, int]]] = []
            chosen: dict[int, float] = {}
            useful = list(self._useful(offer, top, sum(needs[k].quantity for k in served)))
            for start, last, each_c in useful:
                alone = len(useful) == 1 and start <= 1
                taken = self.used[offer.supplier] if alone else self._column(0, 1)
                chosen |= {} if alone else {taken: 1.0}
                many = self._column(each_c, last, whole=False)
                if not alone:
                    self._row({many: 1, taken: -start}, 0, math.inf)
                self._row({many: 1, taken: -last}, -math.inf, 0)
                shares = {k: self._column(0, needs[k].quantity, whole=False) for k in served}
                for k, share in shares.items():  # said for each need apart: far tighter than for all of them together
                    self._row({share: 1, taken: -min(needs[k].quantity, last)}, -math.inf, 0)
                    serving[k].append(share)
                self._row({many: -1} | dict.fromkeys(shares.values(), 1.0), -math.inf, 0)
                brackets.append((many, each_c, shares))
                goods[offer.supplier][many] = each_c
            self._row({packs: -offer.pack} | dict.fromkeys((many for many, _, _ in brackets), 1.0), 0, 0)
            if chosen:
                self._row(chosen | {self.used[offer.supplier]: -1}, -math.inf, 0)
            self.offers += [(offer, *bracket) for bracket in brackets]
        for k, need in enumerate(needs):
            self._row({self.missing[k]: 1} | dict.fromkeys(serving[k], 1.0), need.quantity, need.quantity)
        for name, shop in shops.items():
            if shop.minimum_c:
                self._row(goods[name] | {self.used[name]: -float(shop.minimum_c)}, 0, math.inf)

    def _in_time(self, need: Needed, offer: Offered) -> bool:
        return need.within_days is None or self.shops[offer.supplier].days <= need.within_days

    def _most(self, offer: Offered, needs: Sequence[Needed]) -> int:
        """More of an offer is never cheaper: all it may serve, its last break, or the supplier's minimum with it alone."""
        each_c = max(1, offer.breaks[-1][1])
        wanted = max(sum(need.quantity for need in needs), offer.breaks[-1][0], self.shops[offer.supplier].minimum_c // each_c + 1)
        most = math.ceil(wanted / offer.pack) * offer.pack
        return most if offer.available is None else min(most, offer.available // offer.pack * offer.pack)

    def _useful(self, offer: Offered, top: int, wanted: int) -> Iterator[tuple[int, int, int]]:
        """From how many up to how many at which price, without the breaks that are never worth reaching.

        Such a one costs, at its first unit, no less than all that is wanted below it, and no less than the minimum order and a
        pack more: what is wanted, filled up to the minimum, is cheaper.
        """
        minimum_c, many = self.shops[offer.supplier].minimum_c, math.ceil(wanted / offer.pack) * offer.pack
        below = [price for first, price in offer.breaks if first <= many]
        ends = [*(first - 1 for first, _ in offer.breaks[1:]), top]
        for (start, each_c), end in zip(offer.breaks, ends, strict=True):
            pointless = (
                below and many < start and max(many * below[-1], minimum_c and minimum_c + offer.pack * below[-1]) <= start * each_c
            )
            if start <= min(end, top) and not pointless:
                yield start, min(end, top), each_c

    def _column(self, cost: float, upper: float, *, whole: bool = True) -> int:
        self.cost.append(cost)
        self.upper.append(upper)
        self.whole.append(int(whole))
        return len(self.cost) - 1

    def _row(self, coefficients: dict[int, float], low: float, high: float) -> None:
        self.rows.append(coefficients)
        self.low.append(low)
        self.high.append(high)

    def least_missing(self, *, time_s: float) -> int | None:
        """How many units at least nobody offers in time."""
        cost = np.zeros(len(self.cost))
        cost[self.missing] = 1
        found = self._run(cost, sum(need.quantity for need in self.needs), time_s)
        return round(found.fun) if found.x is not None else None

    def solve(self, *, missing: int, time_s: float) -> Basket | None:
        """The cheapest with at most so many units missing, None where there is none."""
        found = self._run(np.array(self.cost, dtype=float), missing, time_s)
        if found.x is None:
            return None
        many = np.rint(found.x).astype(int)
        lines = [
            BoughtLine(offer, int(many[column]), each_c, self._serves(many, shares))
            for offer, column, each_c, shares in self.offers
            if many[column]
        ]
        suppliers = {line.offer.supplier for line in lines}
        return Basket(
            lines=tuple(lines),
            postage_c={name: shop.postage_c for name, shop in self.shops.items() if name in suppliers},
            missing=tuple((need.need_id, int(many[k])) for need, k in zip(self.needs, self.missing, strict=True) if many[k]),
            gap=float(found.mip_gap or 0.0) if (found.mip_gap or 0.0) > WHOLE else 0.0,
        )

    def _serves(self, many: "np.ndarray[tuple[int], np.dtype[np.int64]]", shares: dict[int, int]) -> tuple[tuple[str, int], ...]:
        return tuple((self.needs[k].need_id, int(many[share])) for k, share in shares.items() if many[share])

    def _run(self, cost: "np.ndarray[tuple[int], np.dtype[np.float64]]", missing: int, time_s: float):  # type: ignore[no-untyped-def]
        rows, low, high = [*self.rows, dict.fromkeys(self.missing, 1.0)], [*self.low, 0.0], [*self.high, float(missing)]
        at = [(r, c, value) for r, row in enumerate(rows) for c, value in row.items()]
        matrix = csr_array(
            ([value for _, _, value in at], ([r for r, _, _ in at], [c for _, c, _ in at])), shape=(len(rows), len(self.cost))
        )
        return milp(
            cost,
            integrality=np.array(self.whole),
            bounds=Bounds(0, np.array(self.upper)),
            constraints=LinearConstraint(matrix, low, high),
            options={"time_limit": time_s, "mip_rel_gap": 0.0},
        )
