"""Pictures of fish: made small, turned upright, and stripped of where and by what they were taken."""

from __future__ import annotations

import io
from uuid import UUID

from common.problems import Refused
from django.db import transaction
from django.shortcuts import get_object_or_404
from PIL import Image, ImageOps, UnidentifiedImageError

from accounts.models import User
from days.models import Entry, Photo

LONGEST_PX, MOST_PX = 1600, 16_000_000
FORMATS = ("JPEG", "PNG", "WEBP")
UNREADABLE = (
    UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError, Image.DecompressionBombWarning,
)  # fmt: skip
MOST_PHOTOS = 2000
"""Of one person: some half a gigabyte."""


def made_small(data: bytes) -> tuple[bytes, int, int]:
    """Return a picture as JPEG no longer than `LONGEST_PX`, with nothing beside its pixels; its width and height."""
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as image:
            # The size is read from the head: nothing has been unpacked yet.
            if image.width * image.height > MOST_PX:
                text = f"The picture has {image.width} x {image.height} points. The most is {MOST_PX // 1_000_000} million."
                raise Refused(422, "invalid", text, {"image": text})
            image.draft("RGB", (LONGEST_PX, LONGEST_PX))  # a JPEG is unpacked no larger than it has to be
            upright = ImageOps.exif_transpose(image).convert("RGB")
    except UNREADABLE:
        text = "This is no picture that can be read. Send a JPEG, PNG or WebP."
        raise Refused(422, "invalid", text, {"image": text}) from None
    upright.thumbnail((LONGEST_PX, LONGEST_PX))
    bare = Image.new("RGB", upright.size)
    bare.paste(upright)
    out = io.BytesIO()
    bare.save(out, "JPEG", quality=82)
    return out.getvalue(), bare.width, bare.height


def _entry_of(owner: User, day_id: UUID, entry_id: UUID) -> Entry:
    return get_object_or_404(Entry, pk=entry_id, presentation__day_id=day_id, presentation__day__owner=owner)


def put_photo(*, owner: User, day_id: UUID, entry_id: UUID, data: bytes) -> tuple[Photo, bool]:
    """Keep the picture of a landed fish; another takes its place."""
    entry = _entry_of(owner, day_id, entry_id)
    if entry.kind != "landed":
        raise Refused(422, "invalid", "Only a landed fish has a picture.", {"image": "Only a landed fish has a picture."})
    if Photo.objects.filter(entry__presentation__day__owner=owner).exclude(entry=entry).count() >= MOST_PHOTOS:
        raise Refused(409, "too_many", f"There are {MOST_PHOTOS} pictures here, and no room for more. Take some away.")
    jpeg, width, height = made_small(data)
    with transaction.atomic():
        return Photo.objects.update_or_create(entry=entry, defaults={"jpeg": jpeg, "width_px": width, "height_px": height})


def photo_of(owner: User, day_id: UUID, entry_id: UUID) -> Photo:
    return get_object_or_404(Photo, entry=_entry_of(owner, day_id, entry_id))
