"""A made-up photo for the demo: the underside of an old chassis with a can of two sections, drawn."""

import io

from PIL import Image, ImageDraw, ImageFilter

SIZE = (1000, 750)
WIRES = (  # colour, the points it runs through
    ("#b3261b", ((60, 750), (110, 560), (250, 470), (335, 350))),
    ("#e3c02f", ((780, 750), (700, 560), (560, 480), (485, 350))),
    ("#15181a", ((1000, 330), (860, 320), (760, 260), (635, 350))),
    ("#6f4320", ((1000, 560), (880, 600), (840, 700), (820, 750))),
)
LUGS = ((335, 338), (485, 338), (635, 338))


def under_the_chassis() -> io.BytesIO:
    """A picture as PNG, as a file at its beginning."""
    picture = Image.new("RGB", SIZE, "#53514b")
    draw = ImageDraw.Draw(picture)
    draw.rounded_rectangle((30, 30, 970, 720), 24, fill="#9a988f", outline="#3a3833", width=10)
    draw.ellipse((255, 90, 715, 550), fill="#c9c7bd", outline="#85837a", width=6)
    draw.ellipse((300, 135, 670, 505), fill="#3b2f26", outline="#241c16", width=5)
    draw.text((378, 185), "32 + 32 MFD", fill="#d9d2c3", font_size=38)
    draw.text((410, 235), "500 V DC", fill="#d9d2c3", font_size=34)
    draw.rectangle((760, 90, 920, 220), fill="#6b6258", outline="#3a332c", width=6)
    for colour, points in WIRES:
        draw.line(points, fill="#2b2822", width=26, joint="curve")
        draw.line(points, fill=colour, width=19, joint="curve")
    for x, y in LUGS:
        draw.ellipse((x - 26, y - 26, x + 26, y + 26), fill="#c3c6c6", outline="#5d6062", width=5)
        draw.ellipse((x - 9, y - 9, x + 9, y + 9), fill="#3b2f26")
    file = io.BytesIO()
    picture.filter(ImageFilter.GaussianBlur(1.2)).save(file, "PNG")
    file.seek(0)
    return file
