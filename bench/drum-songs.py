"""Songs with exact beats, made up over drum patterns of today's styles, to fit on: drum-songs.py OUT [EACH]

Makes OUT/wav/NAME.wav and OUT/truth/NAME.json (beats and downbeats, seconds; group, the style, whose songs are kept out together): EACH
songs (12) of each style in the folder `zoom` of the Debian package `mma`, which holds drum patterns alone. Bass, chords, a lead and what
goes on when are thrown: also against the beat, as dance music has it. Tempi are those usual for a style (common practice, from memory).
Needs (Debian): mma python3-mido, and what `midi_sound.py` needs.
"""
import re

from midi_sound import make_songs

LIBRARY = '/usr/share/mma/lib/zoom'
SECONDS = 62
# Quarters a minute.
TEMPI = {
    'afro': (95, 126), 'ambient': (70, 112), 'bald': (58, 84), 'bald34': (80, 130), 'beat16': (80, 112), 'beat8': (98, 150), 'blues': (72, 126),
    'bossa': (108, 150), 'cntry': (98, 140), 'country': (92, 140), 'dance': (116, 136), 'dnb': (160, 178), 'funk': (90, 118),
    'fus16': (84, 112), 'fusion': (90, 132), 'hiphop': (80, 106), 'house': (118, 132), 'hrk': (98, 150), 'jazz': (110, 196), 'jazz04': (110, 180),
    'latin': (90, 130), 'mide': (88, 126), 'mtl': (108, 164), 'pop': (94, 132), 'punk': (160, 208), 'reggae': (66, 90), 'rnb': (64, 106),
    'rock': (96, 152), 'rock34': (96, 150), 'samba': (94, 120), 'shuffle': (98, 140), 'ska': (128, 176), 'techno': (124, 148), 'thr': (160, 204),
    'trip': (66, 98),
}
NOTES = {
    'KickDrum1': 36, 'SnareDrum1': 38, 'ClosedHiHat': 42, 'OpenHiHat': 46, 'RideCymbal1': 51, 'SideKick': 37, 'Tambourine': 54, 'Maracas': 70,
    'CrashCymbal1': 49, 'HighTom1': 50, 'MidTom1': 47, 'LowTom1': 43, 'LowConga': 64, 'MuteHighConga': 62, 'OpenHighConga': 63, 'RideBell': 53,
}
KITS = (0, 0, 8, 16, 24, 25)
PROGRESSIONS = [
    'C Am F G', 'Am F C G', 'F G Am Am', 'Am Am Dm Em', 'C G Am F', 'Dm G C C', 'C C F C', 'Am G F E', 'Am Am Am Am', 'C Bb F C', 'Am C D F', 'Dm Bb F C',
]
ROOTS = {'C': 0, 'D': 2, 'E': 4, 'F': 5, 'G': 7, 'A': 9, 'B': 11}
BASSES, KEYS, LEADS = range(32, 40), (0, 1, 2, 4, 5, 7, 16, 17, 24, 25, 27, 28, 30, 62, 63, 80, 81, 90), (11, 22, 26, 56, 61, 65, 73, 80, 81, 84, 87)
PADS = (48, 50, 52, 88, 89, 91, 94)


def patterns(style):
    """The drum patterns of a style: beats of a bar, bars, and (note, beat, velocity) of each stroke; those in quarters."""
    with open(f'{LIBRARY}/{style}.mma', encoding='latin1') as f:
        text = f.read()
    out = []
    for block in re.split(r'^SeqClear', text, flags=re.M)[1:]:
        meter = int(re.search(r'^Time (\d+)', block, re.M).group(1))
        strokes, bars = [], 1
        for tone, line in re.findall(r'Tone\s+(\S+)\s+// \|(.*)\|', block):
            grids = line.split('|')
            bars = max(bars, len(grids))
            for bar, grid in enumerate(grids):
                strokes += [(NOTES[tone], meter * (bar + i / len(grid)), 35 + 26 * int(c)) for i, c in enumerate(grid) if c.isdigit() and tone in NOTES]
        if meter in (3, 4) and strokes:
            out.append((meter, bars, strokes))
    return out


def in_thirds(strokes):
    return any(min(abs(beat % 1 - 1 / 3), abs(beat % 1 - 2 / 3)) < 0.02 for _, beat, _ in strokes)


def rhythm(rng, meter, thirds, kind):
    """Beats of a bar at which something sounds."""
    each = (0, 2 / 3) if thirds else (0, 0.5)
    fine = (0, 1 / 3, 2 / 3) if thirds else (0, 0.25, 0.5, 0.75)
    beats = range(meter)
    return {
        'beats': lambda: [*beats],
        'off': lambda: [b + each[1] for b in beats],
        'eighths': lambda: [b + e for b in beats for e in each],
        'between': lambda: [b + e for b in beats for e in fine[1:]],
        'fine': lambda: [b + e for b in beats for e in fine],
        'halves': lambda: [0, 2] if meter == 4 else [0],
        'backbeat': lambda: [1, 3] if meter == 4 else [1, 2],
        'whole': lambda: [0],
        'threes': lambda: [0, 1.5, 3] if meter == 4 else [0, 1.5],
        'thrown': lambda: sorted({0, *rng.sample([b + e for b in beats for e in fine], meter + 1)} - ({0} if rng.random() < 0.3 else set())),
    }[kind]()


def chord(name, key):
    root = ROOTS[name[0]] - (1 if name[1:2] == 'b' else 0) + key
    return [root, root + (3 if name.endswith('m') else 4), root + 7]


def song(style, rng):
    """(channel, note, beat, length, velocity) of all that sounds, beats of a bar, bars, and programs."""
    found = patterns(style)
    meter = rng.choice(found)[0]
    some = [p for p in found if p[0] == meter]
    chosen = rng.sample(some, min(len(some), rng.choice((1, 2, 3))))
    thirds = any(in_thirds(p[2]) for p in chosen)
    bpm = rng.uniform(*TEMPI[style])
    bars = int(SECONDS * bpm / 60 / meter)
    chords = rng.choice(PROGRESSIONS).split()
    key, each, early = rng.randrange(-5, 6), rng.choice((0.5, 1, 1, 1, 2)), rng.random() < 0.2
    kinds = {
        'bass': rng.choice(('beats', 'off', 'off', 'eighths', 'between', 'halves', 'whole', 'threes', 'thrown', 'thrown', 'thrown')),
        'keys': rng.choice(('beats', 'off', 'off', 'eighths', 'backbeat', 'whole', 'threes', 'thrown', 'thrown', 'thrown')),
        'arp': rng.choice(('eighths', 'fine', 'thrown')),
        'lead': 'thrown',
    }
    has = {'bass': 0.92, 'keys': 0.8, 'pad': 0.4, 'arp': 0.25, 'lead': 0.6}
    has = {part: rng.random() < share for part, share in has.items()}
    rhythms = {part: [rhythm(rng, meter, thirds, kind) for _ in range(2)] for part, kind in kinds.items()}
    loud = {part: rng.uniform(0.55, 1.1) for part in (*has, 'drums')}
    motif = [rng.choice((0, 2, 4, 7, 9, 12)) for _ in range(24)]
    notes, bar = [], 0
    while bar < bars:
        length = min(rng.choice((4, 4, 8)), bars - bar)
        drums = rng.choice(chosen)
        if bar == 0:
            out = rng.choice(((), (), ('drums',), ('bass', 'drums'), ('bass', 'keys', 'lead'), ('lead', 'arp')))
        else:
            out = ('drums',) if rng.random() < 0.12 else rng.choice(((), (), ('lead',), ('keys',), ('arp', 'pad')))
        for b in range(bar, bar + length):
            begins = meter * b
            if 'drums' not in out:
                _, long, strokes = drums
                notes += [(9, n, beat - meter * (b % long) + begins, 0.2, v * loud['drums']) for n, beat, v in strokes if int(beat // meter) == b % long]
                if b == bar and rng.random() < 0.5:
                    notes.append((9, 49, begins, 0.5, 100 * loud['drums']))
                if b == bar + length - 1 and rng.random() < 0.35:
                    notes += [(9, rng.choice((38, 47, 50, 43)), begins + meter - 1 + i / 4, 0.2, 90 * loud['drums']) for i in range(4)]
            for part, where, base in (('bass', 1, 36), ('keys', 2, 60), ('arp', 3, 72), ('lead', 4, 72), ('pad', 5, 60)):
                if not has[part] or part in out:
                    continue
                places = [0, 2] if part == 'pad' and each == 0.5 and meter == 4 else [0] if part == 'pad' else rhythms[part][b % 2]
                for i, place in enumerate(places):
                    ahead = 0.5 if early and place >= meter - 0.5 else 0
                    now = chord(chords[int((b + (place + ahead) / meter) / each) % len(chords)], key)
                    rest = (places[i + 1] if i + 1 < len(places) else meter) - place
                    velocity = loud[part] * rng.uniform(70, 95)
                    if part == 'bass':
                        pitches = [now[0] + base - 12 * (now[0] > 6) + rng.choice((0, 0, 0, 0, 7, 12))]
                    elif part in ('keys', 'pad'):
                        pitches = [base + (n % 12) for n in now]
                    elif part == 'arp':
                        pitches = [base + now[i % 3] % 12]
                    else:
                        pitches = [base + (now[0] + motif[(i + 12 * (b % 2)) % 24]) % 15] if rng.random() < 0.85 else []
                    notes += [(where, p, begins + place, rest * rng.uniform(0.4, 0.95), velocity) for p in pitches]
        bar += length
    programs = {1: rng.choice(BASSES), 2: rng.choice(KEYS), 3: rng.choice(KEYS), 4: rng.choice(LEADS), 5: rng.choice(PADS), 9: rng.choice(KITS)}
    return notes, meter, bars, bpm, programs


if __name__ == '__main__':
    make_songs(__doc__, TEMPI, song, 12, SECONDS + 1)
