"""A figure, its bar, and whether it holds."""

import json
from dataclasses import asdict, dataclass


@dataclass(frozen=True)
class Figure:
    """`bar` is what `value` must reach; `least` tells on which side of it the value must lie."""

    bench: str
    figure: str
    value: float
    unit: str
    bar: float | None = None
    least: bool = True

    @property
    def holds(self) -> bool:
        if self.bar is None:
            return True
        return self.value >= self.bar if self.least else self.value <= self.bar

    def line(self) -> str:
        shown = {key: value for key, value in asdict(self).items() if key != "least"}
        return json.dumps({**shown, "value": round(self.value, 3), "holds": self.holds})
