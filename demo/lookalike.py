"""A drawing of what tells the two apart, for the made-up programme: the tail's white tip and the blotch on the fin."""

from __future__ import annotations

import base64
import io

from PIL import Image, ImageDraw

SIZE = (480, 200)


def walleye_and_sauger() -> str:
    """JPEG as base64: what is looked at on a walleye, ringed."""
    image = Image.new("RGB", SIZE, "#f6f1e6")
    draw = ImageDraw.Draw(image)
    draw.ellipse((40, 70, 360, 150), fill="#8d8f6c", outline="#0f3d3a", width=2)
    draw.polygon([(345, 110), (440, 62), (425, 110), (440, 158)], fill="#8d8f6c", outline="#0f3d3a")
    draw.polygon([(425, 128), (440, 158), (408, 142)], fill="#ffffff", outline="#0f3d3a")  # the white tip
    draw.polygon([(140, 74), (150, 30), (205, 44), (225, 73)], fill="#8d8f6c", outline="#0f3d3a")
    draw.ellipse((196, 48, 222, 72), fill="#1c1c14")  # the blotch
    draw.ellipse((66, 96, 84, 114), fill="#ffffff", outline="#0f3d3a", width=2)
    draw.ellipse((72, 102, 79, 109), fill="#1c1c14")
    for ring in ((396, 120, 452, 170), (186, 38, 232, 82)):
        draw.ellipse(ring, outline="#b83a0b", width=4)
    out = io.BytesIO()
    image.save(out, "JPEG", quality=80, optimize=True)
    return base64.b64encode(out.getvalue()).decode()
