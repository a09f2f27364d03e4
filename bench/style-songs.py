"""Songs with exact beats, made up of what styles are usually made of, to fit on: style-songs.py OUT [EACH]

Makes OUT/wav/NAME.wav and OUT/truth/NAME.json (beats and downbeats, seconds; group, the style, whose songs are kept out together): EACH
songs (8) of each style in `style_patterns.py`. What goes on when, which patterns go together, what is played by what and how loud, swing,
fills and tempo are thrown.
Needs (Debian): python3-mido, and what `midi_sound.py` needs.
"""
import random

from midi_sound import make_songs
from style_patterns import CHORDS, STYLES

SECONDS = 62
DRUMS = {
    'kick': (36, 36, 35, 41), 'snare': (38, 38, 40), 'rim': (37,), 'clap': (39,), 'hat': (42, 42, 44), 'open': (46,), 'ride': (51, 51, 59, 53),
    'shaker': (70, 82, 69), 'conga': (63, 64, 61), 'bell': (56, 75, 76), 'tom': (45, 47, 43), 'tamb': (54,),
}
KITS = {'usual': (0, 0, 8, 16), 'made': (24, 25, 0), 'soft': (40, 32, 0), 'strings': (48, 0)}
# Programs of each part by the family of sounds.
PROGRAMS = {
    'bass': {'usual': (32, 33, 33, 34, 35, 36, 37), 'made': (38, 39, 38, 39, 87, 33), 'soft': (32, 32, 33, 35), 'strings': (42, 43, 43, 48, 58)},
    'comp': {
        'usual': (0, 1, 4, 5, 16, 24, 25, 26, 27, 28, 29, 30), 'made': (5, 16, 50, 51, 62, 63, 80, 81, 90, 4), 'soft': (0, 0, 1, 4, 11, 24, 26),
        'strings': (6, 46, 48, 45, 0, 19, 60, 68, 21),
    },
    'lead': {
        'usual': (26, 27, 29, 30, 56, 61, 65, 66, 22, 73, 80), 'made': (80, 81, 84, 87, 62, 85, 100), 'soft': (66, 65, 56, 11, 73, 22, 26, 59),
        'strings': (40, 41, 68, 71, 73, 74, 56, 60, 52),
    },
}
PROGRAMS['arp'] = PROGRAMS['comp']
PROGRAMS['pad'] = dict.fromkeys(KITS, (48, 49, 50, 51, 52, 88, 89, 90, 91, 94, 95, 16))
CHANNEL = {'bass': 1, 'comp': 2, 'arp': 3, 'lead': 4, 'pad': 5, 'drums': 9}
# How often a part is there, and what share of the time until its next note a note may sound.
HAS = {'bass': 0.95, 'comp': 0.85, 'arp': 0.2, 'lead': 0.75, 'pad': 0.3}
SOUNDS = {'bass': (0.4, 1), 'comp': (0.2, 0.95), 'arp': (0.3, 1), 'lead': (0.5, 1), 'pad': (0.95, 1)}
SCALES = ((0, 2, 4, 5, 7, 9, 11), (0, 2, 3, 5, 7, 8, 10))
STEPS = {'walking': (0, 2, 4, 3, 5, 2, 4, 6), 'octaves': (0, 7), 'fifths': (0, 4), 'root': (0, 0, 0, 4, 0, 0, 0, 2)}
AT_FIRST = ((), (), ('drums',), ('bass', 'drums'), ('bass', 'comp', 'lead'), ('lead', 'arp', 'comp'), ('drums', 'lead', 'bass'))
LATER = ((), (), (), ('lead',), ('comp',), ('arp', 'pad'), ('bass',))
LENGTHS = {
    2: ((0.5, 0.5, 1, 1, 2),),
    3: ((1 / 3, 2 / 3, 1, 1, 2),),
    4: ((0.5, 0.5, 1, 1.5), (1, 1, 2, 0.5), (0.25, 0.25, 0.5, 0.75, 1), (1, 2, 3), (0.75, 0.75, 0.5, 1)),
}


class Pattern:
    """Strokes of one bar after another: (beat, strength)."""

    def __init__(self, text, meter, each):
        size = meter * each
        bars = [text[at : at + size] for at in range(0, len(text), size)]
        self.bars = [[(i / each, 1 if c == 'x' else 0.55) for i, c in enumerate(bar) if c in 'xo'] for bar in bars]

    def bar(self, b):
        return self.bars[b % len(self.bars)]

    def change(self, rng, meter, each):
        """Loses a stroke here and there, or gains one."""
        for i, bar in enumerate(self.bars):
            more = [(rng.randrange(meter * each) / each, 0.6)] if rng.random() < 0.4 else []
            self.bars[i] = sorted({place: strength for place, strength in more + [s for s in bar if rng.random() > 0.08]}.items())


def melody(rng, meter, each):
    """(beat, length, step of the scale) over two bars, more or less against the beat."""
    out, at, step = [], rng.choice((0, 0, 0, 0.5, 1)) if each != 3 else 0, rng.randrange(-2, 6)
    lengths, against = rng.choice(LENGTHS[each]), rng.choice((0, 0, 0.2, 0.5, 0.8))
    while at < 2 * meter - 0.01:
        long = rng.choice(lengths)
        early = at >= 1 and abs(at - round(at)) < 0.01 and rng.random() < against
        if rng.random() < 0.85:
            out.append((at - (1 / 3 if each == 3 else 0.5) * early, long, step))
        step = max(-4, min(11, step + rng.choice((-4, -2, -1, -1, 0, 1, 1, 2, 4))))
        at += long
    return out


def pitch(step, scale):
    return 12 * (step // 7) + scale[step % 7]


class Band:
    """What is thrown for one song of a style, and what it plays bar by bar: `notes` are (channel, note, beat, length, velocity)."""

    def __init__(self, name, rng):
        style = STYLES[name]
        self.rng, self.notes, self.counts = rng, [], dict.fromkeys(HAS, 0)
        self.meter, self.each = style.get('meter', 4), style.get('each', 4)
        self.bpm, self.swing = rng.uniform(*style['bpm']), rng.uniform(*style.get('swing', (0, 0)))
        self.chords, self.turn = rng.choice(CHORDS), rng.choice(style.get('turn', (1, 1, 1, 2, 0.5)))
        self.key, self.scale = rng.randrange(12), rng.choice(SCALES)
        self.walks = rng.choice(style.get('walks', ('root', 'root', 'fifths', 'octaves')))
        # Chords may come half a beat before their bar.
        self.ahead = 0.5 if self.each != 3 and rng.random() < 0.2 else 0
        self.drums = [p for p in DRUMS if p in style] if rng.random() >= style.get('bare', 0.06) else []
        shares = {**HAS, **style.get('has', {})}
        self.parts = [p for p, share in shares.items() if (p in style or p in ('lead', 'pad')) and rng.random() < share] or ['comp']
        self.struck = {p: rng.choice(of) for p, of in DRUMS.items()}
        self.loud = {p: rng.uniform(0.5, 1.05) for p in (*DRUMS, *HAS)} | {p: rng.uniform(0.75, 1.05) for p in ('kick', 'snare')}
        self.whole = {True: rng.uniform(0.7, 1.05), False: rng.uniform(0.6, 1)}
        self.ways = [self.way(style) for _ in range(2)]
        if rng.random() < 0.6:
            for pattern in self.ways[1].values():
                pattern.change(rng, self.meter, self.each)
        self.tunes = [melody(rng, self.meter, self.each) for _ in range(3)]
        family = style.get('sound', 'usual')
        self.programs = {CHANNEL[p]: rng.choice(of[family]) for p, of in PROGRAMS.items()} | {CHANNEL['drums']: rng.choice(KITS[family])}

    def way(self, style):
        return {p: Pattern(self.rng.choice(style[p]), self.meter, self.each) for p in (*DRUMS, *HAS) if p in style}

    def add(self, part, note, beat, length, velocity):
        place = beat * self.each
        late = self.swing / self.each if abs(place - round(place)) < 0.01 and round(place) % 2 else 0
        channel = CHANNEL.get(part, CHANNEL['drums'])
        velocity = max(1, min(127, velocity * self.whole[part not in CHANNEL]))
        self.notes.append((channel, note, beat + late, length, velocity))

    def chord_at(self, beat):
        return self.chords[int(beat / self.meter / self.turn) % len(self.chords)]

    def beat_drums(self, parts, way, b, fill):
        """A bar of drums, whose last `fill` beats are rolled."""
        rng, begins, until = self.rng, self.meter * b, self.meter - fill
        for p in parts:
            for beat, strength in way[p].bar(b):
                if beat < until:
                    self.add(p, self.struck[p], begins + beat, 0.2, 118 * strength * self.loud[p])
        for i in range(fill * self.each):
            if rng.random() < 0.8:
                self.add('tom', rng.choice((38, 38, 47, 50, 43)), begins + until + i / self.each, 0.2, 105)

    def play_lead(self, tune, b):
        rng, half = self.rng, b % 2 * self.meter
        for beat, length, step in tune:
            if half <= beat < half + self.meter:
                at = self.meter * b - half + beat
                chord = self.chord_at(at)
                near = chord + 2 * round((step - chord) / 2) if rng.random() < 0.5 else step
                self.add('lead', 62 + self.key + pitch(near, self.scale), at, length * rng.uniform(*SOUNDS['lead']), 105 * self.loud['lead'])

    def play(self, part, places, b):
        rng, begins = self.rng, self.meter * b
        for i, (beat, strength) in enumerate(places):
            rest = (places[i + 1][0] if i + 1 < len(places) else self.meter) - beat
            chord = self.chord_at(begins + beat + (self.ahead if beat >= self.meter - 0.5 else 0))
            for note in self.notes_of(part, chord):
                self.add(part, note, begins + beat, rest * rng.uniform(*SOUNDS[part]), 105 * strength * self.loud[part])
            self.counts[part] += 1

    def notes_of(self, part, chord):
        """What a part plays on a chord (a step of the scale)."""
        count = self.counts[part]
        if part == 'bass':
            steps = STEPS[self.walks]
            note = self.key + pitch(chord + steps[count % len(steps)], self.scale)
            return [36 + note % (24 if self.walks in ('walking', 'octaves') else 14)]
        if part == 'arp':
            return [60 + (self.key + pitch(chord + (0, 2, 4, 7, 4, 2)[count % 6], self.scale)) % 24]
        return [55 + (self.key + pitch(chord + s, self.scale)) % 12 for s in ((0, 2, 4) if self.rng.random() < 0.8 else (0, 2, 4, 6))]

    def section(self, first, long, at_first):
        """Some bars in one way, with some parts silent."""
        rng = self.rng
        silent = rng.choice(AT_FIRST) if at_first else ('drums',) if rng.random() < 0.08 else rng.choice(LATER)
        drums = [] if 'drums' in silent else [p for p in self.drums if rng.random() > 0.1] if rng.random() < 0.3 else self.drums
        way, order = rng.choice(self.ways), rng.randrange(3)
        if drums and rng.random() < 0.5:
            self.add('tom', 49, self.meter * first, 0.5, 100)
        held = [(i * self.meter * min(1, self.turn), 1) for i in range(max(1, round(1 / self.turn)))]
        for b in range(first, first + long):
            last = b == first + long - 1
            self.beat_drums(drums, way, b, rng.choice((1, 1, 2)) if drums and last and rng.random() < 0.4 else 0)
            for p in self.parts:
                if p in silent:
                    continue
                if p == 'lead':
                    self.play_lead(self.tunes[(order + b // 4) % 3], b)
                else:
                    self.play(p, held if p == 'pad' else way[p].bar(b), b)


def song(name, rng):
    """Notes, beats of a bar, bars, beats a minute and programs."""
    band, bar = Band(name, rng), 0
    bars = int(SECONDS * band.bpm / 60 / band.meter)
    while bar < bars:
        long = min(rng.choice((2, 4, 4, 8, 8)), bars - bar)
        band.section(bar, long, bar == 0)
        bar += long
    return band.notes, band.meter, bars, band.bpm, band.programs


if __name__ == '__main__':
    make_songs(__doc__, STYLES, song, 8, SECONDS + 1)
