"""A photo from a phone: checked by what it is, encoded anew without its metadata, and kept outside the web root."""

import hashlib
import io
from dataclasses import dataclass, replace
from typing import IO
from uuid import UUID

import pillow_heif
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from PIL import Image, ImageOps

from dusky_heron.core.errors import InputError
from dusky_heron.record.errors import Lost

MOST_BYTES = 25_000_000
MOST_PIXELS = 60_000_000
LONGEST_EDGE, THUMBNAIL_EDGE = 2560, 480
FORMATS = ("JPEG", "PNG", "WEBP", "HEIF")
KINDS = "JPEG, PNG, WebP or HEIC"
ENDS = b"\xff\xd9"  # of every JPEG (ITU-T T.81, B.1.1.3)
LOST = "A photo is not to be found whole on the disk any more; the record keeps its digest. Bring it back from a backup."
pillow_heif.register_heif_opener(thumbnails=False)


@dataclass(frozen=True, slots=True)
class Encoded:
    """A photo ready to be kept: the picture and a small one, JPEG, and the size of the picture."""

    picture: bytes
    thumbnail: bytes
    width: int
    height: int

    @property
    def digest(self) -> str:
        """SHA-256 of the picture."""
        return hashlib.sha256(self.picture).hexdigest()


def encode(file: IO[bytes], size: int) -> Encoded:
    """Check a file of so many bytes by its content and encode it anew; raise InputError at the field `photo`."""
    if size > MOST_BYTES:
        raise InputError("photo", f"This file has {size / 1e6:.0f} MB: at most {MOST_BYTES / 1e6:.0f} MB. Take a smaller picture.")
    if size == 0:
        raise InputError("photo", "The file is empty.")
    try:
        with Image.open(file, formats=FORMATS) as opened:
            if opened.width * opened.height > MOST_PIXELS:
                raise Image.DecompressionBombError
            picture = ImageOps.exif_transpose(opened).convert("RGB")
    except Image.DecompressionBombError as error:
        raise InputError("photo", f"It unpacks to more than {MOST_PIXELS / 1e6:.0f} megapixels. Take a smaller picture.") from error
    except (OSError, ValueError, SyntaxError, EOFError) as error:
        raise InputError("photo", f"That is not a photo that can be read: choose a {KINDS} file.") from error
    picture.thumbnail((LONGEST_EDGE, LONGEST_EDGE))
    small = picture.copy()
    small.thumbnail((THUMBNAIL_EDGE, THUMBNAIL_EDGE))
    return Encoded(_jpeg(picture), _jpeg(small), picture.width, picture.height)


def _jpeg(picture: Image.Image) -> bytes:
    """The pixels alone, as JPEG."""
    bare = Image.new("RGB", picture.size)
    bare.paste(picture)
    file = io.BytesIO()
    bare.save(file, "JPEG", quality=85, optimize=True)
    return file.getvalue()


def keep(workshop_id: UUID, photo_id: UUID, encoded: Encoded) -> None:
    """Put both pictures into the storage; nothing there is ever written over."""
    default_storage.save(_name(workshop_id, photo_id, small=False), ContentFile(encoded.picture))
    default_storage.save(_name(workshop_id, photo_id, small=True), ContentFile(encoded.thumbnail))


def as_it_came(picture: bytes) -> Encoded:
    """A picture of ours that came back, as it is, so that its digest holds, and a small one made of it; see `encode`."""
    return replace(encode(io.BytesIO(picture), len(picture)), picture=picture)


def read(workshop_id: UUID, photo_id: UUID, *, small: bool) -> bytes:
    """A kept picture, or the small one; raises Lost where its file is gone, or is half of one."""
    try:
        with default_storage.open(_name(workshop_id, photo_id, small=small)) as file:
            found: bytes = file.read()
    except FileNotFoundError as error:
        raise Lost(LOST) from error
    if not found.endswith(ENDS):
        raise Lost(LOST)
    return found


def _name(workshop_id: UUID, photo_id: UUID, *, small: bool) -> str:
    return f"photos/{workshop_id}/{photo_id}{'-small' if small else ''}.jpg"
