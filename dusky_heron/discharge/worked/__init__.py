"""What a marking is and can do, and what a fall says, from what was typed alone: on the server and in the page's own worker."""

from dusky_heron.discharge.worked.falls import fall_here
from dusky_heron.discharge.worked.reading import read_box

__all__ = ["fall_here", "read_box"]
