"""Fits the networks by which the readings of a song's beat are judged (src/core/song/beat-net.json).

    fit-beats.py without HEARD KIND...   fits without whole kinds of songs and says how the networks do on those: as they are,
                                         with a voice over them, cut out of themselves
    fit-beats.py fit HEARD               fits on all that was heard and writes the networks

HEARD is what `hear-songs.ts` made. Needs python3-torch and python3-mir-eval (Debian). See `beat-net.ts` for what the networks are.
Kinds of songs count by SHARE, however many there are of each, and the sources of a kind alike.
"""
import glob, json, os, sys
from multiprocessing import Pool

import mir_eval.beat
import numpy as np
import torch
from torch import nn
from torch.nn import functional as F

torch.set_num_threads(1)
# Kinds that are left out of a mix of songs: what was fitted on unlike mixes errs differently, and the mean of all errs less.
MIXES = [(), ('drums',), ('styles',)]
# Networks of each mix: those the application has, and those fitted to be judged.
NETS, JUDGED = 2, 1
SHARE = {'styles': 0.2, 'songs': 0.2, 'midi': 0.2, 'band': 0.2, 'drums': 0.2, 'pattern': 0.2, 'module': 0.15, 'made': 0.05}
WIDTH, NEAR, FAR, HIDDEN = 24, 24, 16, 8
EPOCHS, BATCH, STRETCH, RATE, DECAY, DROP = 15, 24, 24.0, 4e-3, 1e-2, 0.2
# Zeros between one reading's beats and the next one's.
GAP = 8
# Seconds in which a song is there that begins at once, and how far its first sound may lie from a beat it is on, in beats.
AT_ONCE, ON = 0.021, 0.15
STARTS = 6
# Share of songs that are fitted on as though they were cut out of longer ones.
CUT = 0.35
# How much bars count beside the choice of a reading, and how much songs in three among them.
BARS, IN_THREE = 0.5, 4
# How much a reading's own likelihood counts beside what its beats have in common with the others'.
OWN = 0.5
# Ways to count a song's bars: beats in one, and which of the first opens one.
WAYS = [(n, k) for n in (3, 4) for k in range(n)]


def load(folder, least=0.8):
    songs = []
    for path in sorted(glob.glob(f'{folder}/*.json')):
        with open(path) as f:
            song = json.load(f)
        if not song['scores'] or max(song['scores']) < least:
            continue
        song['name'] = os.path.basename(path)[:-5]
        counts = [len(b) - 1 for b in song['beats']]
        rows = np.fromfile(path[:-4] + 'u8', np.uint8).reshape(sum(counts), -1)
        song['rows'] = np.split(rows[:, :-1], np.cumsum(counts)[:-1])
        song['figures'] = np.nan_to_num(np.array(song['figures'], np.float32), posinf=0, neginf=0)
        song['scores'] = np.array(song['scores'], np.float32)
        song['begun'] = begun(song['beats'], song['start'], song['start'] <= AT_ONCE)
        song['beats'] = [np.array(b) for b in song['beats']]
        song['bars'] = [bars_in(b[:-1], s, np.array(song['downbeats'])) for b, s in zip(song['beats'], song['scores'])]
        songs.append(song)
    return songs


def bars_in(beats, score, downbeats):
    """How a reading's beats are counted: beats in a bar and the first that opens one; None where that is not known or changes."""
    if score < 0.9 or len(downbeats) < 8:
        return None
    i = np.clip(np.searchsorted(downbeats, beats), 1, len(downbeats) - 1)
    firsts = np.flatnonzero(np.minimum(abs(downbeats[i] - beats), abs(downbeats[i - 1] - beats)) < 0.07)
    if len(firsts) < 8:
        return None
    beats_a_bar = int(np.median(np.diff(firsts)))
    phases = np.bincount(firsts % beats_a_bar, minlength=beats_a_bar)
    return (beats_a_bar, int(phases.argmax())) if beats_a_bar in (3, 4) and phases.max() > 0.8 * len(firsts) else None


def shares(songs):
    count, sources = {}, {}
    for s in songs:
        key = (s['kind'], s['source'])
        count[key] = count.get(key, 0) + 1
        sources.setdefault(s['kind'], set()).add(s['source'])
    share = np.array([SHARE[s['kind']] / len(sources[s['kind']]) / count[s['kind'], s['source']] for s in songs], np.float32)
    return share / share.mean()


def means(values, reading, on, count):
    """Mean of the values of the rows that are `on`, for each reading."""
    zero = torch.zeros(count)
    return zero.index_add(0, reading[on], values[on]) / zero.index_add(0, reading[on], torch.ones(int(on.sum()))).clamp(min=1)


class Net(nn.Module):
    def __init__(self, rows, figures):
        super().__init__()
        self.beat = nn.Linear(rows, WIDTH)
        self.near = nn.Conv1d(WIDTH, NEAR, 5, padding=2)
        self.far = nn.Conv1d(NEAR, FAR, 3, padding=4, dilation=4)
        self.out = nn.Linear(FAR, 4)
        self.gain = nn.Parameter(torch.tensor(3.0))
        self.opens = nn.Parameter(torch.zeros(2))
        self.hidden = nn.Linear(figures, HIDDEN)
        self.figures = nn.Linear(HIDDEN, 1, bias=False)
        self.straight = nn.Linear(figures, 1, bias=False)
        nn.init.zeros_(self.straight.weight)

    def forward(self, rows, reading, place, count, figures, opens):
        """
        Scores of the readings, and of the WAYS to count the bars of each; `reading` of a row is -1 between readings, `place` its beat's
        among the reading's. Each beat speaks for its reading, for being the first of four and of three, and for bars of three.
        """
        live = (reading >= 0).float()
        # As convolutions: a product with so many rows is slow to go back through.
        z = F.conv1d(rows.t()[None], self.beat.weight[..., None], self.beat.bias)
        z = F.dropout(torch.tanh(z), DROP, self.training) * live
        z = F.dropout(F.elu(self.near(z)) * live, DROP, self.training)
        y = F.conv1d(F.elu(self.far(z)), self.out.weight[..., None], self.out.bias)[0].t()
        ok = reading >= 0
        mean = means(y[:, 0], reading, ok, count)
        if self.training:
            figures = figures * (torch.rand(figures.shape[-1]) > DROP).float() / (1 - DROP)
        by_figures = self.figures(torch.tanh(self.hidden(figures))) + self.straight(figures)
        return self.gain * mean + by_figures[:, 0], self.gain * self.ways(y, reading, place, count) + (self.opens[:, None] * opens).sum(1)

    @staticmethod
    def ways(y, reading, place, count):
        ok = reading >= 0
        in_threes = means(y[:, 3], reading, ok, count)
        out = []
        for n, k in WAYS:
            firsts = means(y[:, 1 if n == 4 else 2], reading, ok & (place % n == k), count)
            out.append(firsts if n == 4 else firsts + in_threes)
        return torch.stack(out, 1)


def packed(songs, scale, rng=None):
    """Readings of songs one after another; of a random stretch and varied where `rng` is given."""
    rows, reading, place, bars, opens, figures, song_of, count = [], [], [], [], [], [], [], 0
    for i, s in enumerate(songs):
        start, end = min(b[0] for b in s['beats']), max(b[-1] for b in s['beats'])
        width = s['rows'][0].shape[1]
        span, gains, slide = (start, end), np.ones(width, np.float32), 0.0
        if rng is not None:
            at = start + rng.random() * max(0, end - start - STRETCH)
            span = (at, at + STRETCH)
            bands = np.exp(0.15 * rng.standard_normal(5))
            if rng.random() < 0.15:
                bands[rng.integers(5)] *= 0.5 * rng.random()
            gains = np.concatenate([np.tile(bands, 12), np.full(width - 60, np.exp(0.2 * rng.standard_normal()))]).astype(np.float32)
            slide = 0.08 * rng.standard_normal()
        cut = rng is not None and rng.random() < CUT
        places, opened, at_once = begun(s['beats'], start + 8 * rng.random(), rng.random() < 0.5) if cut else s['begun']
        for beats, raw, bar, tempo, on in zip(s['beats'], s['rows'], s['bars'], s['tempo'], opened):
            a, b = np.searchsorted(beats[:-1], span) if rng is not None else (0, len(raw))
            part = raw[a:b].astype(np.float32) / 100 * gains
            if rng is not None:
                part = part + 0.03 * rng.standard_normal(part.shape, np.float32)
            rows += [np.column_stack([part, np.full(b - a, tempo + slide, np.float32)]), np.zeros((GAP, width + 1), np.float32)]
            reading += [np.full(b - a, count), np.full(GAP, -1)]
            place.append(np.arange(b - a + GAP))
            bars.append(WAYS.index((bar[0], (bar[1] - a) % bar[0])) if bar and b - a > 8 else -1)
            opens.append(opening(on, a, at_once))
            song_of.append(i)
            count += 1
        f = np.clip((s['figures'] - scale[0]) / scale[1], -5, 5)
        f = f + 0.1 * rng.standard_normal(f.shape) if rng is not None else f
        figures.append(np.column_stack([f, places]))
    tensors = [torch.tensor(np.concatenate(x)) for x in (rows, reading, place, figures)]
    given = (tensors[0].float(), tensors[1].long(), tensors[2], count, tensors[3].float(), torch.tensor(np.array(opens)).float())
    return given, torch.tensor(bars), np.array(song_of)


def opening(on, skipped, at_once):
    """Which of the WAYS the first sound of a song would open: of one that begins at once, and of another."""
    way = [float(on is not None and (on - skipped) % n == k) for n, k in WAYS]
    return [way, [0.0] * len(WAYS)] if at_once else [[0.0] * len(WAYS), way]


def begun(readings, start, at_once):
    """Where a song's first sound lies among the beats of each reading: figures, and its beat or None (as `first-sound.ts` has it)."""
    places = []
    for beats in readings:
        i = min(max(0, np.searchsorted(beats, start) - 1), len(beats) - 2)
        gap = beats[i + 1] - beats[i] if start <= beats[-1] else (beats[-1] - beats[0]) / (len(beats) - 1)
        i += start > beats[-1]
        places.append(i + (start - beats[i]) / gap)
    turns = np.cos(2 * np.pi * np.outer(places, (1, 2, 3)))
    on = [round(p) if abs(p - round(p)) < ON else None for p in places]
    return np.hstack([turns, 0 * turns] if at_once else [0 * turns, turns]), on, at_once


def by_song(values, song_of, songs, empty):
    counts = np.bincount(song_of, minlength=songs)
    place = np.concatenate([np.arange(c) for c in counts])
    out = torch.full((songs, counts.max()), float(empty))
    out[song_of, place] = values
    return out


def fitted(songs, seed, scale):
    rng = np.random.default_rng(seed)
    torch.manual_seed(seed)
    share = shares(songs)
    net = Net(songs[0]['rows'][0].shape[1] + 1, len(scale[0]) + STARTS)
    adam = torch.optim.AdamW(net.parameters(), lr=RATE, weight_decay=DECAY)
    steps = len(songs) // BATCH
    rate = torch.optim.lr_scheduler.OneCycleLR(adam, RATE, total_steps=EPOCHS * steps, pct_start=0.15)
    for _ in range(EPOCHS):
        net.train()
        order = rng.permutation(len(songs))
        for step in range(steps):
            chosen = order[step * BATCH : (step + 1) * BATCH]
            some = [songs[i] for i in chosen]
            given, bars, song_of = packed(some, scale, rng)
            scores, ways = net(*given)
            scores = by_song(scores, song_of, len(some), -1e9)
            right = by_song(torch.tensor(np.concatenate([s['scores'] for s in some])), song_of, len(some), -1)
            wanted = torch.where(right >= 0, torch.exp(20 * (right - right.max(1, keepdim=True)[0])), torch.zeros(()))
            wanted = wanted / wanted.sum(1, keepdim=True)
            weight = torch.tensor(share[chosen])
            loss = (-(wanted * torch.log_softmax(scores, 1)).sum(1) * weight).sum() / weight.sum()
            known = bars >= 0
            if known.any():
                heavy = torch.tensor([1.0 if n == 4 else IN_THREE for n, _ in WAYS])
                loss = loss + BARS * F.cross_entropy(ways[known], bars[known], heavy)
            adam.zero_grad()
            loss.backward()
            nn.utils.clip_grad_norm_(net.parameters(), 1.0)
            adam.step()
            rate.step()
    return net.eval()


def networks(songs, count):
    figures = np.concatenate([s['figures'] for s in songs])
    scale = (figures.mean(0), figures.std(0) + 1e-6)
    mixes = [[s for s in songs if s['kind'] not in out] for out in MIXES]
    with Pool(os.cpu_count()) as pool:
        nets = pool.starmap(fitted, [(mix, seed, scale) for seed in range(count) for mix in mixes])
    return [(scale, net) for net in nets]


def judged(models, song):
    """The scores of a song's readings and of the ways to count each: means of the networks."""
    with torch.no_grad():
        both = []
        for scale, net in models:
            both.append(net(*packed([song], scale)[0]))
    return [torch.stack(x).mean(0).numpy() for x in zip(*both)]


def likely(scores):
    """How likely the best of some scores is."""
    return float(1 / np.exp(scores - scores.max()).sum())


def meets(a, b):
    """F-measure of some beats against others."""
    i = np.searchsorted(b, a)
    near = np.minimum(abs(b[np.clip(i - 1, 0, len(b) - 1)] - a), abs(b[np.clip(i, 0, len(b) - 1)] - a))
    return 2 * (near <= 0.07).sum() / (len(a) + len(b))


def picked(scores, beats):
    """The reading that is chosen, and how likely it is that it is meant (as `best-way.ts` has it)."""
    p = np.exp(scores - scores.max())
    p /= p.sum()
    some = [i for i in np.argsort(-p)[:20] if p[i] >= 0.005]
    beats = {i: beats[i][beats[i] >= 5] for i in some}
    some = [i for i in some if len(beats[i])] or some[:1]
    alike = {i: np.array([meets(beats[i], beats[j]) if i != j else 1 for j in some]) for i in some}
    sure = {i: p[some][alike[i] > 0.9].sum() for i in some}
    at = max(some, key=lambda i: (p[some] * alike[i]).sum() + OWN * sure[i])
    return at, float(sure[at])


def measured(models, song):
    scores, ways = judged(models, song)
    at, sure = picked(scores, song['beats'])
    truth, found = (mir_eval.beat.trim_beats(np.array(b)) for b in (song['truth'], song['beats'][at]))
    n, k = WAYS[int(ways[at].argmax())]
    lines, true_lines = (mir_eval.beat.trim_beats(np.array(b)) for b in (song['beats'][at][k::n], song['downbeats']))
    tempi = [60 * (len(b) - 1) / (b[-1] - b[0]) for b in (truth, found)]
    return {
        'kind': song['kind'],
        'name': song['name'],
        'F': mir_eval.beat.f_measure(truth, found),
        'CMLt': mir_eval.beat.continuity(truth, found)[1],
        'best': float(song['scores'].max()),
        'bars': mir_eval.beat.f_measure(true_lines, lines) if len(true_lines) > 4 else None,
        'sure': sure,
        'bars sure': likely(ways[at]),
        'tempo': float(tempi[1] / tempi[0]),
    }


def told(found):
    for kind in SHARE:
        some = [m for m in found if m['kind'] == kind]
        if not some:
            continue
        mean = lambda key, of=some: np.mean([m[key] for m in of if m[key] is not None] or [np.nan])
        said = []
        for low, high in ((0.9, 2), (0.7, 0.9), (0, 0.7)):
            those = [m for m in some if low <= m['sure'] < high]
            said.append(f'{sum(m["F"] > 0.85 for m in those)} of {len(those)}')
        sure = [m for m in some if m['bars'] is not None and m['F'] > 0.85 and m['bars sure'] > 0.9]
        tempo = np.mean([abs(m['tempo'] - 1) < 0.005 for m in some])
        print(
            f'{kind:8s} {len(some):4d} songs: F {mean("F"):.3f} of {mean("best"):.3f}, CMLt {mean("CMLt"):.3f}, bar lines {mean("bars"):.3f}, '
            f'tempo {tempo:.2f}; right where sure over 0.9, 0.7, less: {", ".join(said)}; bars sure: {sum(m["bars"] > 0.8 for m in sure)} of {len(sure)}',
            flush=True,
        )


def without(songs, kinds):
    """How networks do on kinds of songs that they were not fitted on."""
    models = networks([s for s in songs if s['kind'] not in kinds and s['scores'].max() >= 0.8], JUDGED)
    # What was played again, and other dresses, are there to be learned from.
    some = [s for s in songs if s['kind'] in kinds and '-again' not in s['name'] and '-dressed' not in s['name']]
    plain = [s for s in some if not s['name'].endswith('-sung')]
    told([measured(models, s) for s in plain])
    print('with a voice over them')
    told([measured(models, s) for s in some if s['name'].endswith('-sung')])
    print('cut out of themselves')
    rng = np.random.default_rng(1)
    told([measured(models, {**s, 'begun': begun(s['beats'], s['start'] + 8 * rng.random(), True)}) for s in plain])


def short(value):
    return float(f'{value:.4g}') if np.isscalar(value) else [short(v) for v in value]


def weights(net):
    w = {k: v.detach().numpy() for k, v in net.named_parameters()}
    return {
        'beat': short(w['beat.weight']),
        'beatBias': short(w['beat.bias']),
        'near': short(w['near.weight']),
        'nearBias': short(w['near.bias']),
        'far': short(w['far.weight']),
        'farBias': short(w['far.bias']),
        'out': short(w['out.weight']),
        'outBias': short(w['out.bias']),
        'gain': short(float(w['gain'])),
        'hidden': short(w['hidden.weight']),
        'hiddenBias': short(w['hidden.bias']),
        'straight': short(w['straight.weight'][0]),
        'figures': short(w['figures.weight'][0]),
        'opens': short(w['opens']),
    }


def check(net, figures, count=20):
    """What a network makes of rows and figures that the tests of `beat-net.ts` make too."""
    width = net.beat.weight.shape[1]
    rows = torch.tensor(abs(np.sin(1 + 0.37 * np.arange(count * width)))).float().reshape(count, width)
    with torch.no_grad():
        cosines = torch.tensor(np.cos(np.arange(figures))).float()[None]
        score, ways = net(rows, torch.zeros(count).long(), torch.arange(count), 1, cosines, torch.tensor([opening(2, 0, False)]))
    return {'count': count, 'score': short(float(score[0])), 'ways': short(ways[0].numpy())}


if __name__ == '__main__':
    if len(sys.argv) < 3 or sys.argv[1] not in ('without', 'fit'):
        sys.exit(__doc__)
    if sys.argv[1] == 'without':
        without(load(sys.argv[2], 0), sys.argv[3:])
    else:
        models = networks(load(sys.argv[2]), NETS)
        mean, deviation = models[0][0]
        nets = [net for _, net in models]
        with open('src/core/song/beat-net.json', 'w') as f:
            json.dump({'mean': short(mean), 'deviation': short(deviation), 'check': check(nets[0], len(mean) + STARTS), 'nets': [weights(n) for n in nets]}, f)
