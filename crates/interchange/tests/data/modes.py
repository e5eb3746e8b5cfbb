"""Writes small photos in the colour modes that scanners, print shops and old cameras use, left half one colour and right half another.

    pip install pillow==13.0.0
    python3 modes.py

The tests read them and compare with the colours below, which Pillow reads back.
"""

from pathlib import Path

from PIL import Image

HERE = Path(__file__).parent
LEFT, RIGHT = (176, 141, 87), (60, 80, 92)


def halves(mode, left, right):
    image = Image.new(mode, (64, 48), left)
    image.paste(right, (32, 0, 64, 48))
    return image


rgb = halves("RGB", LEFT, RIGHT)
rgb.convert("CMYK").save(HERE / "cmyk.jpg", quality=95)
rgb.convert("L").save(HERE / "grey.jpg", quality=95)
rgb.quantize(8).save(HERE / "indexed.png")
# Pasting into 16-bit pictures repeats the low byte in Pillow 13.0.0.
row = (40000).to_bytes(2, "little") * 32 + (12000).to_bytes(2, "little") * 32
Image.frombytes("I;16", (64, 48), row * 48).save(HERE / "grey16.png")
halves("RGBA", (*LEFT, 255), (*RIGHT, 255)).save(HERE / "alpha.png")

for name in ["cmyk.jpg", "grey.jpg", "indexed.png", "alpha.png"]:
    read = Image.open(HERE / name).convert("RGB")
    print(name, read.getpixel((12, 24)), read.getpixel((52, 24)))
