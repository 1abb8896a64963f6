"""Words in loggers' headings, run together, shortened and in other languages.

A heading is cut into words at capitals, digits, underscores and spaces, and words written in one
are cut where the vocabulary allows. All entries are common practice, no published source.
"""

from __future__ import annotations

import re
import unicodedata
from functools import lru_cache
from typing import Literal

Idea = Literal[
    "speed", "lateral", "longitudinal", "vertical", "acceleration", "engine", "turns", "time",
    "distance", "yaw", "rate", "lap", "latitude", "longitude", "oil", "pressure", "temperature",
    "x", "y", "z", "gps", "filler", "foreign",
]  # fmt: skip

# English; German; French; Spanish; Italian; Dutch; Portuguese
_WORDS: dict[Idea, str] = {
    "speed": "speed spd velocity vel veh vehicle ground geschwindigkeit geschw vitesse velocidad "
    "velocita snelheid velocidade vkmh vmph",
    "lateral": "lateral lat side sideways quer seitlich seiten transversal transversale laterale "
    "lateraal dwars zijwaarts trans",
    "longitudinal": "longitudinal long lon inline fore laengs langs longitudinale longitudinaal "
    "vorwaerts avant",
    "vertical": "vertical vert vertikal verticale verticaal hoch",
    "acceleration": "acceleration accel acc a g gforce force beschleunigung beschl acceleracion "
    "accelerazione accelera aceleracion aceleracao versnelling kraft accélération",
    "engine": "engine eng motor moteur motore mot",
    "turns": "rpm revs rev drehzahl regime revoluciones giri rotacoes rotacao toerental rotations "
    "nmot umin tours rpms",
    "time": "time t elapsed timestamp zeit temps tiempo tempo tijd secs",
    "distance": "distance dist strecke distanz weg distancia distanza afstand",
    "yaw": "yaw gier gieren lacet guinada imbardata gyro gyr giro gierung",
    "rate": "rate raten vitesse velocity snelheid geschwindigkeit velocidad velocita velocidade",
    "lap": "lap runde tour vuelta volta ronde",
    "latitude": "latitude breite breitengrad latitud latitudine breedtegraad",
    "longitude": "longitude lng laenge laengengrad longitud longitudine lengtegraad",
    "oil": "oil oel ol huile aceite olio olie oleo",
    "pressure": "pressure press druck pression presion pressione druk pressao",
    "temperature": "temperature temp temperatur temperatura",
    "x": "x",
    "y": "y",
    "z": "z",
    "gps": "gps gnss",
    "filler": "of de der del di da the in no number nr num session logger log raw ch channel chan "
    "sensor smoothed smooth filtered value ecu can car vehicle fahrzeug body corrected corr "
    "current act actual imu pos positive positiv left right links rechts gauche droite forward",
    "foreign": "wheel front rear fl fr rl rr water coolant wasser brake throttle pedal fuel gear "
    "air intake exhaust egt tyre tire battery target limit max min delta difference diff error "
    "steering steer lambda gain boost turbo accuracy quality satellites sats heading course "
    "altitude driven shaft slip predicted best clutch gearbox transmission height damper",
}
# said of rates where a yaw is meant, of speeds elsewhere: which it is depends on the other words
_IDEAS: dict[str, tuple[Idea, ...]] = {}
for _idea, _text in _WORDS.items():
    for _word in _text.split():
        _IDEAS[_word] = (*_IDEAS.get(_word, ()), _idea)

UNITS: dict[str, str] = {
    "kmh": "km/h", "kph": "km/h", "km/h": "km/h", "mph": "mph", "mi/h": "mph", "mps": "m/s",
    "m/s": "m/s", "ms2": "m/s2", "mss": "m/s2", "m/s2": "m/s2", "m/s²": "m/s2", "m/s^2": "m/s2",
    "g": "g", "gs": "g", "rpm": "rpm", "1/min": "rpm", "u/min": "rpm", "min-1": "rpm",
    "tr/min": "rpm", "giri/min": "rpm", "s": "s", "sec": "s", "secs": "s", "sek": "s", "ms": "ms",
    "msec": "ms", "deg/s": "deg/s", "degs": "deg/s", "dps": "deg/s", "°/s": "deg/s",
    "rad/s": "rad/s", "rads": "rad/s", "m": "m", "km": "km", "mi": "mi", "ft": "ft", "deg": "deg",
    "°": "deg", "bar": "bar", "kpa": "kPa", "psi": "psi", "c": "C", "°c": "C", "degc": "C",
    "f": "F", "°f": "F", "degf": "F",
}  # fmt: skip
"""Units as they are glued to headings, by their proper names."""

LEFT = ["left", "links", "gauche", "izquierda", "sinistra", "esquerda"]
RIGHT = ["right", "rechts", "droite", "derecha", "destra", "direita"]
FORWARD = ["forward", "fwd", "accel", "vorwaerts", "avant", "adelante", "avanti", "vooruit"]
BRAKING = ["braking", "brake", "bremsen", "freinage", "frenada", "frenata", "remmen"]

_PARTS = re.compile(r"[A-Z]+(?![a-z])|[A-Z]?[a-z]+|[a-z]+|\d+|[+-]")


def plain(text: str) -> str:
    """Without accents; umlauts as two letters.

    >>> plain("Öldruck, accélération")
    'Oeldruck, acceleration'
    """
    for letter, two in (("ä", "ae"), ("ö", "oe"), ("ü", "ue"), ("Ä", "Ae"), ("Ö", "Oe"),
                        ("Ü", "Ue"), ("ß", "ss")):  # fmt: skip
        text = text.replace(letter, two)
    apart = unicodedata.normalize("NFKD", text)
    return "".join(letter for letter in apart if not unicodedata.combining(letter))


def _is_known(word: str) -> bool:
    return word in _IDEAS or word in UNITS


@lru_cache(maxsize=4096)
def _cut(word: str) -> tuple[str, ...]:
    """A word written of several, cut into known ones; itself when that does not go."""
    if _is_known(word) or len(word) < 4:
        return (word,)
    best: dict[int, tuple[str, ...]] = {0: ()}
    for end in range(1, len(word) + 1):
        for start in range(end):
            piece = word[start:end]
            if start not in best or not _is_known(piece):
                continue
            if len(piece) < 2 and not (end == len(word) or start == 0):
                continue  # single letters only at the ends: speedG, aLat
            cut = (*best[start], piece)
            if end not in best or len(cut) < len(best[end]):
                best[end] = cut
    return best.get(len(word), (word,))


def words_of(heading: str) -> tuple[str, ...]:
    """The words of a heading, lower case.

    Examples
    --------
    >>> words_of("LatAcc_G"), words_of("gpsspeedkmh"), words_of("accelY")
    (('lat', 'acc', 'g'), ('gps', 'speed', 'kmh'), ('accel', 'y'))
    >>> words_of("Querbeschleunigung"), words_of("Régime_moteur")
    (('quer', 'beschleunigung'), ('regime', 'moteur'))
    """
    pieces = _PARTS.findall(plain(heading))
    return tuple(part for piece in pieces for part in _cut(piece.lower()) if part not in "+-")


def ideas_of(word: str) -> tuple[Idea, ...]:
    """What a word may mean; nothing for one that is not known."""
    return _IDEAS.get(word, ())
