"""What people wrote in their own words is shown to nobody who has no account."""

from jotgate.core.figures.pictures import Gathered, Picture, Texts


def without_words(picture: Picture | None) -> Picture | None:
    """The same, but of texts no more than how many different ones there are."""
    match picture:
        case Texts():
            return picture.model_copy(update={"often": ()})
        case Gathered():
            inner = tuple(
                one.model_copy(update={"picture": without_words(one.picture)})
                for one in picture.inner
            )
            return picture.model_copy(update={"inner": inner})
        case _:
            return picture
