"""An act that was not carried out."""


class NotDone(Exception):
    """Why not, with what to do about it; `left_out` where there is nothing to do, or the rule wants
    it so."""

    def __init__(self, why: str, left_out: bool = False) -> None:
        super().__init__(why)
        self.left_out = left_out
