"""Makes the lettering of stencils: the bold weight of the interface's heading font, as plain outlines.

    pip install fonttools==4.68.0 brotli==1.2.1
    python crates/interchange/fonts/make_lettering.py   # from the root of the repository, after `npm ci` in web/

The font is licensed under the SIL Open Font License (OFL.txt).
"""

from fontTools import subset
from fontTools.ttLib import TTFont
from fontTools.varLib import instancer

SOURCE = "web/node_modules/@fontsource-variable/bricolage-grotesque/files/bricolage-grotesque-latin-wght-normal.woff2"
TARGET = "crates/interchange/fonts/bricolage-grotesque-bold.ttf"

font = TTFont(SOURCE)
font.flavor = None
bold = instancer.instantiateVariableFont(font, {"wght": 700})
options = subset.Options()
options.layout_features = ["kern"]
options.name_IDs = [0, 1, 13, 14]
options.hinting = False
subsetter = subset.Subsetter(options)
subsetter.populate(unicodes=list(bold.getBestCmap()))
subsetter.subset(bold)
bold.save(TARGET)
