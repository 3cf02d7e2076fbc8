"""Panels on sheets by cuts that run from edge to edge, as glass is scored and snapped and boards go through a saw.

Every sheet is a tree of cuts: each cut parts one piece in two, from edge to edge, and takes the saw's kerf away (none
for a score). What is asked for is placed one after another into the corner of a free piece; which order, which free
piece and which way to cut are the strategies. Before that, pieces that share a side may be joined into blocks that one
cut parts again. The best of all is kept; a random search goes on for as long as one waits.
"""

from __future__ import annotations

import itertools
import math
import random
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from fuente.errors import EntryError
from fuente.halting import reached, step
from fuente.workshop.cut_tree import Block, Piece, down, items_of
from fuente.workshop.sheet_cuts import FINE, LEAST_OFFCUT, Board, Cut, Item, Nest, Nesting, Placed, Rect

_MOST = 400  # panels of one nest


@dataclass(frozen=True)
class _Rule:
    """How the next item chooses its free piece, and how that is cut."""

    fit: int  # 0 area, 1 short side left, 2 long side left, 3 lowest
    cut: int  # 0 leaves the larger rest whole, 1 the smaller, 2 upright first, 3 level first


_ORDERS: tuple[Callable[[Block], tuple[float, float]], ...] = (
    lambda i: (max(i.length, i.width), min(i.length, i.width)),
    lambda i: (i.length * i.width, max(i.length, i.width)),
    lambda i: (min(i.length, i.width), max(i.length, i.width)),
    lambda i: (i.length + i.width, i.length),
)
_RULES = tuple(_Rule(fit, cut) for fit in range(4) for cut in range(4))


class _Sheet:
    """A board with its tree and the free pieces in it."""

    def __init__(self, board: Board, trim: float):
        self.board = board
        room = Piece(trim, trim, board.length - 2 * trim, board.width - 2 * trim)
        self.root, self.free = room, [room]


def nest(
    items: Sequence[Item],
    boards: Sequence[Board],
    *,
    kerf: float = 0.0,
    trim: float = 0.0,
    seconds: float = 0.0,
    seed: int = 1,
) -> Nesting:
    """The best layout found of all items on as little bought sheet as may be; sizes in m.

    ``kerf`` is what a cut takes away, ``trim`` what is not used along each edge of a sheet. Without ``seconds`` only
    the fixed strategies are tried (some hundreds, always the same); with them, a random search goes on for so long and
    tells ``halting.reached`` the seconds that have passed. Raises EntryError for sizes that are none.
    """
    if any(min(i.length, i.width) <= 0 for i in items) or any(min(b.length, b.width) <= 2 * trim for b in boards):
        raise EntryError("Panels and sheets need a length and a width.")
    if kerf < 0 or trim < 0:
        raise EntryError("Kerf and trim are nothing or more.")
    if len(items) > _MOST:
        raise EntryError(f"At most {_MOST} panels are laid out at once.")
    fitting = [i for i in items if any(_lies(i, b.length - 2 * trim, b.width - 2 * trim) for b in boards)]
    unfit = [i for i in items if not any(i is f for f in fitting)]
    if not fitting:
        return Nesting((), tuple(unfit), 0)
    search = _Search(fitting, boards, kerf, trim, random.Random(seed))
    search.fixed()
    if seconds > 0:
        search.wander(seconds)
    left = unfit + [i for block in search.left for i in items_of(block)]
    return Nesting(tuple(_told(s, kerf) for s in search.best if s.root.parts or s.root.item), tuple(left), search.tried)


class _Search:
    """Tries layouts and keeps the best."""

    def __init__(self, items: list[Item], boards: Sequence[Board], kerf: float, trim: float, chance: random.Random):
        self.items = self.single = [Block(i.length, i.width, i.turns, i) for i in items]
        self.kerf, self.trim, self.chance, self.boards = kerf, trim, chance, boards
        # Leftovers first, the smallest before larger ones; then what costs least by area, or least of all.
        own = sorted((b for b in boards if b.own), key=lambda b: b.area)
        sold = [b for b in boards if not b.own]
        by_area = [*own, *sorted(sold, key=lambda b: ((b.price or b.area) / b.area, b.area))]
        by_price = [*own, *sorted(sold, key=lambda b: (b.price or b.area, b.area))]
        self.ways = [by_area] if by_area == by_price else [by_area, by_price]
        self.by_use = self.best_use = by_area
        self.best: list[_Sheet] = []
        self.left: list[Block] = []
        self.score: tuple[float, ...] = (math.inf,)
        self.order: list[int] = []
        self.rules: list[_Rule] = []
        self.best_items = self.items
        self.tried = 0

    def fixed(self) -> None:
        """Every rule with every usual order, of single pieces and of those joined that share a side."""
        self._all_rules(self.single)
        for slack in (0.0, 0.02):
            joined = self._joined(slack, random.Random(0))
            if len(joined) < len(self.single):
                self._all_rules(joined)

    def wander(self, seconds: float) -> None:
        """Turn about: other joins with all rules, and small changes of the order and the rules of the best."""
        began = time.monotonic()
        passed = 0.0
        while (passed := time.monotonic() - began) < seconds:
            reached(passed)
            joined = self._joined(self.chance.choice((0.0, 0.0, 0.003, 0.01, 0.03)), self.chance)
            if len(joined) < len(self.single):
                self._all_rules(joined)
            self._climb(60)

    def _all_rules(self, items: list[Block]) -> None:
        """Every rule with every usual order."""
        self.items = items
        for way, key in itertools.product(self.ways, _ORDERS):
            self.by_use = way
            order = sorted(range(len(items)), key=lambda k: key(items[k]), reverse=True)
            for rule in _RULES:
                step()
                self._try(order, [rule] * len(order))

    def _climb(self, rounds: int) -> None:
        """From the best on by small changes; one as good is taken, and now and then a worse one, so that it does not
        stay in a hollow.
        """
        self.items, self.by_use = self.best_items, self.best_use
        order, rules, score = list(self.order), list(self.rules), self.score
        for _ in range(rounds):
            step()
            tried_order, tried_rules = list(order), list(rules)
            for _ in range(1 + (self.chance.random() < 0.3)):
                self._change(tried_order, tried_rules)
            found = self._try(tried_order, tried_rules)
            if found <= score or self.chance.random() < 0.01:
                order, rules, score = tried_order, tried_rules, found

    def _joined(self, slack: float, chance: random.Random) -> list[Block]:
        """Blocks of pieces two by two, as long as a pair wastes no more than a share ``slack`` of its area; which pair
        is first is by chance.
        """
        room = max(self.boards, key=lambda b: b.area)
        blocks = list(self.single)
        while len(blocks) > 1:
            step()
            pairs = [
                made
                for i, first in enumerate(blocks)
                for second in blocks[i + 1 :]
                if (made := self._pair(first, second, slack, room)) is not None
            ]
            if not pairs:
                break
            made = chance.choice(pairs)
            blocks = [b for b in blocks if b is not made.parts[0][0] and b is not made.parts[1][0]] + [made]
        return blocks

    def _pair(self, first: Block, second: Block, slack: float, room: Board) -> Block | None:
        """Two blocks as one, the way that wastes least; None where that is too much or lies on no sheet."""
        best: tuple[float, Block] | None = None
        for turn in (False, True) if first.turns else (False,):
            a, b = first.sides(turn)
            for other in (False, True) if second.turns else (False,):
                c, d = second.sides(other)
                for upright in (True, False):
                    if upright:
                        length, width = a + self.kerf + c, max(b, d)
                        waste = abs(b - d) * (a if b < d else c)
                    else:
                        length, width = max(a, c), b + self.kerf + d
                        waste = abs(a - c) * (b if a < c else d)
                    if waste > slack * length * width + FINE or (best is not None and waste >= best[0]):
                        continue
                    turns = first.turns and second.turns
                    made = Block(length, width, turns, None, upright, ((first, turn), (second, other)))
                    if _lies(made, room.length - 2 * self.trim, room.width - 2 * self.trim):
                        best = (waste, made)
        return best[1] if best else None

    def _change(self, order: list[int], rules: list[_Rule]) -> None:
        n = len(order)
        i, j = self.chance.randrange(n), self.chance.randrange(n)
        what = self.chance.random()
        if what < 0.4:
            order[i], order[j] = order[j], order[i]
        elif what < 0.65:
            order.insert(j, order.pop(i))
        else:
            rules[i] = self.chance.choice(_RULES)

    def _try(self, order: Sequence[int], rules: Sequence[_Rule]) -> tuple[float, ...]:
        """Lay out in an order, each item by its rule; keep it where it is the best so far."""
        self.tried += 1
        sheets: list[_Sheet] = []
        left: list[Block] = []
        stock = [b.count if b.count is not None else math.inf for b in self.by_use]
        for at in order:
            item, rule = self.items[at], rules[at]
            if not any(
                self._placed(item, rule, sheets, own) or self._opened(item, rule, sheets, stock, own)
                for own in (True, False)
            ):
                left.append(item)
        score = self._score(sheets, left)
        if score < self.score:
            self.best, self.left, self.score = sheets, left, score
            self.order, self.rules, self.best_items, self.best_use = list(order), list(rules), self.items, self.by_use
        return score

    def _placed(self, item: Block, rule: _Rule, sheets: list[_Sheet], own: bool) -> bool:
        chosen: tuple[float, _Sheet, int, bool] | None = None
        for number, sheet in enumerate(sheets):
            if sheet.board.own != own:
                continue
            for k, piece in enumerate(sheet.free):
                for turned in (False, True) if item.turns else (False,):
                    a, b = item.sides(turned)
                    dx, dy = piece.length - a, piece.width - b
                    if dx < -FINE or dy < -FINE:
                        continue
                    if rule.fit == 0:
                        cost = piece.length * piece.width - a * b
                    elif rule.fit == 1:
                        cost = min(dx, dy)
                    elif rule.fit == 2:
                        cost = max(dx, dy)
                    else:
                        cost = piece.y + b + 1e-3 * piece.x
                    if dx <= FINE or dy <= FINE:  # nothing is left on one side: no better place
                        cost *= 0.5
                    cost += 1e-6 * number
                    if chosen is None or cost < chosen[0]:
                        chosen = (cost, sheet, k, turned)
        if chosen is None:
            return False
        _, sheet, k, turned = chosen
        self._fill(sheet, k, item, turned, rule)
        return True

    def _opened(self, item: Block, rule: _Rule, sheets: list[_Sheet], stock: list[float], own: bool) -> bool:
        for k, board in enumerate(self.by_use):
            if (
                board.own != own
                or stock[k] < 1
                or not _lies(item, board.length - 2 * self.trim, board.width - 2 * self.trim)
            ):
                continue
            stock[k] -= 1
            sheet = _Sheet(board, self.trim)
            sheets.append(sheet)
            room = sheet.root
            ways = [t for t in ((False, True) if item.turns else (False,)) if _fits(item, t, room)]
            # Its long side along the sheet's, unless the rule looks the other way.
            ways.sort(key=lambda t: (item.width if t else item.length) * (1 if rule.fit == 3 else -1))
            self._fill(sheet, 0, item, ways[0], rule)
            return True
        return False

    def _fill(self, sheet: _Sheet, k: int, item: Block, turned: bool, rule: _Rule) -> None:
        """Put an item into a free piece's corner and cut it free."""
        piece = sheet.free.pop(k)
        a, b = item.sides(turned)
        dx, dy = piece.length - a, piece.width - b
        if rule.cut == 0:
            upright = dx * piece.width >= dy * piece.length
        elif rule.cut == 1:
            upright = dx * piece.width < dy * piece.length
        else:
            upright = rule.cut == 2
        for way in (upright, not upright):
            size, rest = (a, dx) if way else (b, dy)
            if rest > FINE:
                piece, more = piece.split(way, size, self.kerf)
                if more is not None:
                    sheet.free.append(more)
        piece.item = (item, turned)

    def _score(self, sheets: list[_Sheet], left: list[Block]) -> tuple[float, ...]:
        """Less is better: what finds no sheet, money, bought area, what is cut from the emptiest bought sheet, and then
        the largest piece that is left over.
        """
        bought = [s for s in sheets if not s.board.own]
        money = sum(s.board.price for s in bought)
        area = sum(s.board.area for s in bought)
        last = min((self._filled(s) for s in bought), default=0.0)
        largest = max((p.length * p.width for s in sheets for p in s.free), default=0.0)
        return (sum(i.length * i.width for i in left), money, area, last, -largest)

    def _filled(self, sheet: _Sheet) -> float:
        return sheet.board.area - sum(p.length * p.width for p in sheet.free)


def _lies(item: Item | Block, length: float, width: float) -> bool:
    straight = item.length <= length + FINE and item.width <= width + FINE
    return straight or (item.turns and item.width <= length + FINE and item.length <= width + FINE)


def _fits(item: Block, turned: bool, room: Piece) -> bool:
    a, b = item.sides(turned)
    return a <= room.length + FINE and b <= room.width + FINE


def _told(sheet: _Sheet, kerf: float) -> Nest:
    """A sheet's tree as what lies on it, its cuts in order, and what is left over."""
    placed: list[Placed] = []
    offcuts: list[Rect] = []
    cuts: list[Cut] = []
    for piece in down(sheet.root, kerf):
        here = Rect(piece.x, piece.y, piece.length, piece.width)
        if piece.cut is not None:
            upright, at = piece.cut
            middle = at + kerf / 2
            if upright:
                ends = ((piece.x + middle, piece.y), (piece.x + middle, piece.y + piece.width))
            else:
                ends = ((piece.x, piece.y + middle), (piece.x + piece.length, piece.y + middle))
            cuts.append(Cut(len(cuts) + 1, *ends))
        elif piece.item is not None and (item := piece.item[0].item) is not None:
            a, b = piece.item[0].sides(piece.item[1])
            placed.append(Placed(item, replace(here, length=a, width=b), piece.item[1]))
        elif min(piece.length, piece.width) >= LEAST_OFFCUT:
            offcuts.append(here)
    offcuts.sort(key=lambda r: -r.area)
    return Nest(sheet.board, tuple(placed), tuple(cuts), tuple(offcuts))
