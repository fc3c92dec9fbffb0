"""Words to name colors with, by theme; each word stands for the region of OKLCH around its center.

Three of the lists also stand in the other languages that sheets speak, word for word.

A line is a word, then lightness in percent, chroma in hundredths, hue in degrees. The lists are our own.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple


class Word(NamedTuple):
    """A word and the OKLCH center (lightness 0 to 1, chroma, hue in degrees) of the colors it names."""

    text: str
    lightness: float
    chroma: float
    hue: float


_LISTS: dict[str, str] = {
    "harbor": """
        Buoy 58 19 30; Lifebelt 66 19 42; Rust chain 48 12 40; Mooring rope 74 8 78; Lantern 82 15 80;
        Signal flare 70 19 38; Pilot jacket 88 18 105; Kelp 50 8 120; Bilge green 40 7 145; Starboard 58 16 148;
        Shoal 78 8 180; Lagoon 66 11 195; Deep water 40 8 212; Breakwater 55 7 230; Channel 50 12 250;
        Night sailing 28 8 262; Pennant blue 48 18 264; Sea thrift 74 11 350; Dusk ferry 48 12 300; Mussel 30 4 285;
        Anemone 60 20 5; Driftwood 60 3 70; Fog 95 1 150; Pewter 62 2 230; Slate quay 42 2 240; Hull 22 2 220;
        Tar 14 1 60; Gull white 98 0 90; Sand bar 88 5 85; Oar 58 8 65
    """,
    "orchard": """
        Cherry 45 17 22; Red apple 56 20 27; Blood orange 64 19 40; Apricot 80 11 65; Peach skin 88 7 50;
        Quince 88 14 105; Greengage 74 13 120; Pear 82 12 115; Leaf 52 13 140; Moss bark 38 6 130;
        Graft green 60 15 145; Dew 92 4 170; Rain barrel 50 6 200; Bluet 60 13 250; Damson 30 9 285; Sloe 26 7 275;
        Plum 38 12 320; Fig 34 8 350; Blossom 92 4 0; Crab apple 62 18 12; Mulberry 36 14 355; Walnut 38 5 60;
        Hazel 55 7 70; Straw 86 9 92; Ladder 68 6 75; Husk 78 4 85; Cider 68 13 68; Frost 97 1 220;
        Root cellar 20 2 50; Grey lichen 72 2 140
    """,
    "spice": """
        Paprika 52 18 33; Cayenne 58 21 30; Saffron 78 17 72; Turmeric 80 16 84; Mustard seed 74 13 92;
        Ginger 84 8 85; Cumin 58 8 72; Cinnamon 50 10 52; Clove 30 4 45; Nutmeg 46 6 58; Bay leaf 48 7 130;
        Dill 60 11 135; Mint 84 9 165; Juniper 34 6 240; Poppy seed 32 2 260; Lavender 72 9 295; Sumac 42 15 15;
        Pink pepper 68 15 15; Star anise 36 6 40; Cardamom 74 7 140; Fennel 90 6 115; Black pepper 20 1 70;
        White pepper 93 2 90; Sea salt 98 0 200; Vanilla 95 4 95; Tamarind 38 6 35; Borage 58 15 265;
        Hibiscus 52 18 0; Blue salt 80 6 240; Allspice 40 6 50
    """,
    "minerals": """
        Cinnabar 56 20 30; Garnet 38 14 20; Carnelian 60 17 40; Amber 76 15 75; Citrine 88 14 100; Sulfur 93 17 108;
        Peridot 78 15 120; Serpentine 50 8 140; Malachite 55 14 155; Emerald vein 58 15 162; Turquoise 76 11 190;
        Aquamarine 86 7 200; Azurite 46 15 258; Lapis 40 16 268; Sapphire 36 18 264; Amethyst 56 16 305;
        Fluorite 74 10 300; Rose quartz 86 6 10; Rhodonite 62 16 5; Tourmaline 44 17 350; Jasper 46 10 35;
        Ochre 66 12 72; Sandstone 78 6 75; Flint 46 1 250; Graphite 30 1 260; Obsidian 16 1 280; Chalk 97 1 95;
        Feldspar 90 3 50; Slate 50 3 245; Bronze 52 8 75
    """,
    "weather": """
        Red sky 60 19 28; Ember dusk 52 16 38; Sundog 82 15 75; Noon sun 93 16 103; Hay haze 86 8 95;
        After rain 62 11 150; Spring squall 72 9 160; Sea fret 88 3 190; Clear cold 82 8 215; Open sky 70 12 240;
        High summer 60 16 250; Storm front 40 6 250; Midnight 24 8 268; Twilight 44 12 285; First light 84 6 320;
        Heather mist 66 8 310; Alpenglow 74 13 15; Thunder 34 3 280; Drizzle 74 2 230; Overcast 84 1 240;
        Snow light 98 1 230; Hoarfrost 94 2 210; Wet stone 46 2 230; Black ice 18 2 240; Dust devil 70 7 70;
        Dry field 78 9 88; Rainbow edge 58 20 350; Aurora 78 18 150; Leaf fall 58 13 55; Blue hour 46 15 268
    """,
    "textiles": """
        Madder 48 16 25; Cochineal 46 18 12; Scarlet cloth 52 20 27; Russet 48 11 42; Weld 86 15 103;
        Raw silk 92 4 90; Jute 70 7 78; Linen 90 3 85; Hessian 64 6 80; Loden 42 6 135; Billiard cloth 50 13 150;
        Verdigris felt 64 8 180; Teal flannel 46 8 205; Woad 48 9 245; Indigo vat 32 10 268; Denim 50 9 255;
        Chambray 72 6 248; College blue 30 9 258; Heliotrope 62 17 310; Mauve voile 76 9 315; Damask 56 15 355;
        Blush tulle 90 5 10; Camel 68 9 72; Tweed 50 4 80; Worsted 40 2 260; Charcoal felt 28 1 250;
        Velvet black 15 1 300; Bleached cotton 98 0 90; Flannel 62 1 250; Saffron silk 78 16 75
    """,
    "garden": """
        Geranium 58 21 28; Dahlia 46 18 15; Nasturtium 68 19 45; Marigold 79 17 72; Primrose 93 12 105;
        Sunflower 86 17 90; Clipped hedge 44 10 138; Lawn 62 15 138; Fern 54 12 142; Sage 72 5 145;
        Eucalyptus 70 5 175; Pond 48 7 190; Cornflower 58 17 265; Forget-me-not 78 9 245; Delphinium 46 19 272;
        Iris 48 18 290; Wisteria 76 10 300; Foxglove 64 17 335; Peony 70 17 0; Sweet pea 84 8 345; Rosehip 50 17 25;
        Terracotta 60 11 45; Potting soil 28 3 55; Bark chip 42 5 58; Gravel 70 1 80; Watering can 58 2 220;
        Snowdrop 98 1 130; Petal 94 3 0; Black tulip 22 5 340; Hay 84 10 95
    """,
    "night": """
        Tail light 52 21 28; Neon coral 70 19 25; Street lamp 80 14 70; Taxi light 88 17 98; Candle 90 10 88;
        Exit sign 66 19 148; Signal green 78 20 150; Billboard mint 86 10 170; Aquarium 62 12 210;
        Screen glow 80 10 220; Blue note 44 17 262; Late train 34 11 266; Violet hour 40 16 295;
        Velvet rope 38 15 10; Neon pink 70 23 350; Magenta bar 56 24 330; Moonstone 86 3 260; Moon 96 2 100;
        Milk glass 98 0 200; Shadow 26 2 270; Ink 17 3 275; Asphalt 36 1 260; Smoke 58 1 250; Steam 82 1 230;
        Brick wall 46 11 38; Cork board 62 7 70; Cellar green 34 6 160; Copper pipe 56 11 52; Absinthe 84 18 122;
        Lilac smoke 74 7 305
    """,
    "pottery": """
        Red slip 48 13 32; Cadmium glaze 62 20 35; Persimmon 64 16 48; Honey glaze 70 12 75; Straw glaze 86 10 98;
        Biscuit 86 4 75; Bare clay 68 7 55; Umber wash 36 4 60; Iron spot 44 8 45; Celadon 80 5 160;
        Copper green 56 11 160; Bottle green 38 8 158; Ware green 44 8 150; Turquoise glaze 70 11 200;
        Cobalt wash 42 16 264; Blue slip 56 9 252; Ash blue 76 5 240; Inkwell 26 6 262; Manganese 36 8 330;
        Plum glaze 42 11 345; Lilac bisque 78 7 310; Lustre pink 74 12 0; Oxblood 36 14 22; Shino 88 5 40;
        Kiln grey 54 2 70; Stoneware 70 2 90; Basalt 24 1 260; Porcelain 97 1 150; Tin white 94 1 230;
        Olive ash 56 8 110
    """,
    "instruments": """
        Red lacquer 50 19 27; Fiddle varnish 50 12 48; Brass 76 12 88; Bright brass 86 14 95; Spruce top 84 8 82;
        Maple neck 74 8 75; Rosewood 34 6 35; Ebony 18 1 50; Ivory key 95 3 95; Silver key 80 1 230;
        Steel string 64 1 240; Old felt 46 9 150; Green baize 52 13 148; Reed 80 9 100; Cane 66 8 85;
        Drum skin 90 3 80; Blue note 44 15 262; Low brass 56 9 80; Deep cello 40 9 42; Velvet case 40 16 15;
        Indigo curtain 30 10 275; Spotlight 94 9 102; Rehearsal blue 58 12 248; Lyre green 66 10 165;
        Teal bell 54 9 198; Violet strap 48 15 300; Rose window 60 17 355; Footlight 76 15 65; Chorus pink 84 8 5;
        Pit black 24 1 270; Sky vault 78 8 235; Copper drum 58 12 50
    """,
    "paper": """
        Sealing wax 46 18 26; Red pencil 58 20 28; Rubric 52 17 35; Kraft 68 7 72; Buff folder 88 7 88;
        Sticky note 93 14 105; Legal pad 91 12 102; Ledger green 74 7 155; Blotter green 46 9 155;
        Bottle ink 36 8 165; Carbon copy 40 7 255; Blueprint 42 14 258; Airmail 56 15 256; Sky folder 80 8 235;
        Teal binder 52 9 200; Aqua card 84 7 195; Violet ink 40 17 292; Lilac card 80 8 305; Pink slip 82 9 5;
        Rose card 88 6 15; Magenta tab 58 21 345; Orange tab 70 18 52; Salmon sheet 78 11 32; Book board 54 4 70;
        Newsprint 84 1 95; Pencil lead 44 1 250; Drawing ink 16 1 260; Bond white 98 0 90; Vellum 95 3 92;
        Iron gall 28 4 270; Sepia 36 5 62; Olive cloth 50 7 115
    """,
    "kitchen": """
        Tomato 58 20 30; Beetroot 36 14 0; Chili oil 56 20 34; Carrot 68 17 50; Pumpkin 70 16 58; Egg yolk 84 16 85;
        Butter 93 9 100; Lemon peel 90 17 105; Avocado 58 12 122; Basil 46 12 142; Pea 72 15 132; Lettuce 84 13 125;
        Celery 88 8 125; Mint tea 86 5 160; Enamel blue 48 14 258; Gas flame 60 17 255; Tile blue 42 14 265;
        Blueberry 34 9 278; Aubergine 28 9 325; Red onion 48 13 350; Radish 58 20 10; Rhubarb 70 13 10;
        Salmon 76 12 35; Crust 58 9 62; Cocoa 36 5 50; Coffee 26 3 55; Oat 86 4 85; Milk 98 1 100;
        Cast iron 24 1 240; Steel sink 70 1 230; Teal tin 54 9 195; Sea bean 50 9 165
    """,
}


#: A theme in another language: the language, the list that it says, and its words in that list's order.
_SAID: dict[str, tuple[str, str, str]] = {
    "Hafen": (
        "de",
        "harbor",
        """
        Boje; Rettungsring; Rostige Kette; Festmacher; Laterne; Leuchtrakete; Lotsenjacke; Seetang; Bilgengrün;
        Steuerbord; Untiefe; Lagune; Tiefes Wasser; Wellenbrecher; Fahrrinne; Nachtfahrt; Wimpelblau; Grasnelke;
        Abendfähre; Miesmuschel; Seeanemone; Treibholz; Nebel; Zinn; Schieferkai; Schiffsrumpf; Teer; Möwenweiß;
        Sandbank; Ruder
    """,
    ),
    "Garten": (
        "de",
        "garden",
        """
        Geranie; Dahlie; Kapuzinerkresse; Ringelblume; Schlüsselblume; Sonnenblume; Heckenschnitt; Rasen; Farn; Salbei;
        Eukalyptus; Teich; Kornblume; Vergissmeinnicht; Rittersporn; Iris; Blauregen; Fingerhut; Pfingstrose; Wicke;
        Hagebutte; Terrakotta; Blumenerde; Rindenmulch; Kies; Gießkanne; Schneeglöckchen; Blütenblatt; Schwarze Tulpe;
        Heu
    """,
    ),
    "Küche": (
        "de",
        "kitchen",
        """
        Tomate; Rote Bete; Chiliöl; Möhre; Kürbis; Eigelb; Butter; Zitronenschale; Avocado; Basilikum; Erbse; Kopfsalat;
        Sellerie; Minztee; Emailleblau; Gasflamme; Kachelblau; Heidelbeere; Aubergine; Rote Zwiebel; Radieschen;
        Rhabarber; Lachs; Kruste; Kakao; Kaffee; Haferflocken; Milch; Gusseisen; Spülstein; Blechdose; Queller
    """,
    ),
    "port": (
        "fr",
        "harbor",
        """
        Bouée; Gilet de sauvetage; Chaîne rouillée; Cordage; Lanterne; Fusée de détresse; Veste de pilote; Varech;
        Vert de cale; Tribord; Haut-fond; Lagon; Eau profonde; Brise-lames; Chenal; Navigation de nuit; Bleu de fanion;
        Armérie; Ferry du soir; Moule; Anémone; Bois flotté; Brume; Étain; Quai d'ardoise; Coque; Goudron;
        Blanc de mouette; Banc de sable; Aviron
    """,
    ),
    "jardin": (
        "fr",
        "garden",
        """
        Géranium; Dahlia; Capucine; Souci; Primevère; Tournesol; Haie taillée; Pelouse; Fougère; Sauge; Eucalyptus;
        Étang; Bleuet; Myosotis; Delphinium; Iris; Glycine; Digitale; Pivoine; Pois de senteur; Églantine; Terre cuite;
        Terreau; Écorce; Gravier; Arrosoir; Perce-neige; Pétale; Tulipe noire; Foin
    """,
    ),
    "cuisine": (
        "fr",
        "kitchen",
        """
        Tomate; Betterave; Huile pimentée; Carotte; Potiron; Jaune d'œuf; Beurre; Zeste de citron; Avocat; Basilic;
        Petit pois; Laitue; Céleri; Thé à la menthe; Bleu émail; Flamme de gaz; Bleu faïence; Myrtille; Aubergine;
        Oignon rouge; Radis; Rhubarbe; Saumon; Croûte; Cacao; Café; Avoine; Lait; Fonte; Évier; Boîte en fer; Salicorne
    """,
    ),
}


@lru_cache(maxsize=1)
def themes() -> dict[str, tuple[Word, ...]]:
    """All themes with their words."""
    found = {theme: tuple(_word(entry) for entry in words.split(";")) for theme, words in _LISTS.items()}
    for theme, (_, of, words) in _SAID.items():
        texts = [" ".join(text.split()) for text in words.split(";")]
        found[theme] = tuple(word._replace(text=text) for word, text in zip(found[of], texts, strict=True))
    return found


def language_of(theme: str) -> str:
    """The language of a theme's words (BCP 47)."""
    return _SAID[theme][0] if theme in _SAID else "en"


def _word(entry: str) -> Word:
    *words, lightness, chroma, hue = entry.split()
    return Word(" ".join(words), float(lightness) / 100, float(chroma) / 100, float(hue))
