"""What a marking is and can do, from its text alone: no job, no database; on the server and in the page's own worker alike."""

from dusky_heron.discharge.worked.reading import read_box

__all__ = ["read_box"]
