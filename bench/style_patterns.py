"""
What styles are usually made of (common practice, from memory): beats a minute, `meter` beats in a bar (4), `each` places in a beat (4), and
for each part the patterns it may play, a bar or more: x loud, o soft. `swing` is by how much of itself every second place may be late,
`turn` how many bars a chord may last, `walks` how the bass goes, `sound` which family of instruments plays, `has` how often a part is there,
`bare` how often there are no drums.
"""
CHORDS = [
    (0, 3, 4, 0), (0, 5, 3, 4), (5, 3, 0, 4), (0, 4, 5, 3), (1, 4, 0, 0), (0, 0, 3, 4), (0, 6, 5, 4), (0, 0, 0, 0, 3, 3, 0, 0, 4, 3, 0, 4), (0, 3),
    (0, 0, 5, 5), (0, 2, 3, 4), (5, 1, 4, 0), (0, 6, 3, 0), (0,), (0, 5, 1, 4), (3, 4, 2, 5),
]
E4, O4, Q4, S4 = 'x.x.x.x.x.x.x.x.', '..x...x...x...x.', 'x...x...x...x...', 'xoxoxoxoxoxoxoxo'
BACK, HALF = '....x.......x...', '........x.......'
T3, D3, Q3 = 'xxxxxxxxxxxx', 'x.xx.xx.xx.x', 'x..x..x..x..'
ROCK = ['x.......x.......', 'x.......x.x.....', 'x..x....x.......', 'x.x.....x.x.....', 'x......xx.......', 'x.....x...x.....']
HATS = [E4, E4, S4, Q4, 'xoxoxoxoxoxoxoxo', 'x.o.x.o.x.o.x.o.']
HELD, PUSHED = ['x...............'], ['x.....x.........', 'x..x..x.........', 'x.....x...x.....', '..x..x....x..x..', 'x.....x.........x.x...........x.']
STYLES = {
    'boom bap': dict(
        bpm=(74, 100), swing=(0, 0.5), sound='made', kick=['x.....x.x.......', 'x..x...x..x.....', 'x.x....x.xx.....', 'x.........xx...x'],
        snare=[BACK, '....x..o....x.o.', '....x..o.o..x...'], hat=[E4, 'x.x.x.xxx.x.x.x.', S4], shaker=['................', S4],
        bass=['x.....x.x.......', 'x..x..........x.', 'x.x....x..x.....', 'x...............'], comp=['x...............', '..x...x...x...x.', 'x..x..x...x.....'],
        arp=[E4, 'x..x..x.x..x..x.'],
    ),
    'slow breaks': dict(
        bpm=(66, 92), sound='made', kick=['x.x.......xx....', 'x..x..x...x..x..', 'x.....xx..x.....'], snare=[BACK, '....x..o.o..x..o', '....x..x....x...'],
        hat=[S4, 'xoxxxoxoxoxxxoxo', E4], tamb=['................', O4, S4], bass=['x..............x', 'x..x..x.....x...', 'x.......x.x.....'],
        comp=[*HELD, 'x.......x.......', 'x..x..x..x..x...'], arp=[E4, S4], turn=(1, 2, 0.5),
    ),
    'slow pop in sixteenths': dict(
        bpm=(60, 92), kick=['x.......x.......', 'x.....x.x.......', 'x..x....x..x....', 'x.........x.....'], snare=[BACK, BACK, '....x.......x..o'], hat=[E4, S4, S4],
        shaker=['................', S4], bass=['x.......x.......', 'x.....x.x.......', 'x.x.x.x.x.x.x.x.', 'x..x....x..x....'],
        comp=[E4, S4, 'x...x...x...x...', 'x..x..x..x..x.x.'], arp=[S4, E4, 'x.xxx.xxx.xxx.xx'], turn=(1, 0.5, 0.5),
    ),
    'ballad': dict(
        bpm=(54, 82), bare=0.3, kick=['x.......x.......', 'x.....x.x.......', 'x.............x.'], snare=[BACK], rim=['................', BACK], hat=[E4, S4, Q4],
        bass=['x.......x.......', 'x...............', 'x.....x.x.....x.'], comp=[E4, Q4, 'x.x.x.x.x.x.x.x.', 'x...............'], arp=[E4, S4],
        sound='soft', has={'arp': 0.5, 'pad': 0.6}, turn=(1, 0.5),
    ),
    'slow in twelve': dict(
        bpm=(48, 76), each=3, kick=['x.....x.....', 'x....xx.....', 'x.....x..x..'], snare=['...x.....x..', '...x.....x.o'], hat=[T3, T3, D3], bass=['x.....x.....', 'x....xx....x', 'x..x..x..x..'],
        comp=[T3, Q3, 'x.....x.....'], arp=[T3], turn=(1, 0.5, 0.5),
    ),
    'slow blues': dict(
        bpm=(52, 78), each=3, kick=['x.....x.....', 'x....xx..x..'], snare=['...x.....x..'], ride=[T3, D3], bass=[Q3, 'x.xx.xx.xx.x', 'x....xx....x'], comp=['...x.....x..', T3, 'x.........x.'],
        walks=('walking', 'fifths'), turn=(1, 1, 2),
    ),
    'shuffle': dict(
        bpm=(92, 170), each=3, kick=['x.....x.....', Q3, 'x....xx....x'], snare=['...x.....x..', '...x.ox..x.o'], hat=[D3, D3, Q3], bass=[Q3, D3, D3, 'x....xx..x..'],
        comp=[D3, '..x..x..x..x', '...x.....x..', 'x....x......'], walks=('walking', 'fifths', 'root'),
    ),
    'boogie': dict(
        bpm=(120, 196), each=3, kick=[Q3, 'x.....x.....'], snare=['...x.....x..'], hat=[D3, Q3, 'x..x.xx..x.x'], bass=[D3, D3, Q3], comp=['x....x......', '...x.....x..', D3, 'x....x...x..x....x......'],
        walks=('walking',), turn=(1, 2),
    ),
    'rock and roll': dict(
        bpm=(136, 196), kick=['x.......x.......', 'x.......x.x.....', Q4], snare=[BACK, '....x.x.....x...', '....x.......x.x.'], hat=[E4, Q4], bass=[E4, Q4, 'x.....x.x.......'],
        comp=[E4, Q4, BACK, 'x.....x.........'], walks=('walking', 'root', 'fifths'),
    ),
    'rock': dict(bpm=(92, 150), kick=ROCK, snare=[BACK], hat=HATS, open=['................', '..............x.'], bass=[E4, *ROCK, Q4], comp=[E4, Q4, *HELD, *PUSHED], arp=[E4, S4]),
    'heavy rock': dict(
        bpm=(84, 132), kick=['x..x..x...x.....', 'x.xx..x.x.......', 'x.......x.x.x...', 'xxx.....xx......'], snare=[BACK, BACK, '....x..o....x...'], ride=[Q4, E4], bass=[E4, 'x..x..x...x.....', 'x.xxx.xxx.xxx.xx'],
        comp=['x..x..x...x.....', 'x.xxx.xxx.xxx.xx', E4, *HELD],
    ),
    'thrash': dict(bpm=(150, 214), kick=[E4, S4, 'x.x.x.x.x.x.x.x.', 'x...x...x...x...'], snare=[O4, BACK, BACK], hat=[Q4, E4], bass=[E4, S4], comp=[E4, S4, 'x.xxx.xxx.xxx.xx', *HELD]),
    'punk': dict(bpm=(160, 212), kick=['x.......x.x.....', 'x.....x.x.......', Q4, 'x..x....x.x.....'], snare=[BACK], hat=[Q4, E4], bass=[E4], comp=[E4, E4, Q4]),
    'half time': dict(
        bpm=(130, 172), kick=['x.......x.......', 'x.....x.........', 'x..x......x.....', 'x.........x...x.'], snare=[BACK, BACK], hat=[E4, E4, Q4], bass=[E4, 'x.......x.......', *PUSHED], comp=[*HELD, E4, Q4],
        arp=[E4],
    ),
    'disco': dict(bpm=(108, 134), kick=[Q4], snare=[BACK], open=[O4], hat=[S4, E4], clap=['................', BACK], bass=[E4, 'x.xxx.xxx.xxx.xx', 'x..x..x.x..x..x.', O4], comp=[O4, 'x..x..x...x..x..', *HELD, '..xx..xx..xx..xx'], walks=('octaves', 'root')),
    'house': dict(
        bpm=(116, 132), sound='made', kick=[Q4], clap=[BACK, '................'], open=[O4, O4], hat=[S4, '..x...x...x...x.'], bass=[O4, O4, '..xx..xx..xx..xx', '...x..x....x..x.', 'x..x..x..x..x.x.'],
        comp=['x..x..x...x.....', O4, '...x..x....x..x.', *HELD, '..x..x..x..x..x.'], arp=[S4, 'x..x..x..x..x.x.'],
    ),
    'trance': dict(
        bpm=(126, 146), sound='made', kick=[Q4], clap=['................', BACK], open=[O4], hat=[S4, 'o.x.o.x.o.x.o.x.'], bass=['..x...x...x...x.', '.xxx.xxx.xxx.xxx', '..xx..xx..xx..xx', S4], comp=[*HELD, 'x..x..x..x..x.x.', S4],
        arp=[S4, 'x.xxx.xxx.xxx.xx'], has={'arp': 0.6, 'pad': 0.6},
    ),
    'techno': dict(bpm=(122, 150), sound='made', kick=[Q4], hat=[O4, S4], clap=['................', BACK, '.......x..x.....'], conga=['................', 'x..x..x..x..x...'], bass=[O4, S4, '.x.x..x..x.x..x.'], comp=['...x......x.....', '..x..x..x.......', *HELD], arp=[S4]),
    'garage': dict(bpm=(126, 138), sound='made', swing=(0.1, 0.5), kick=['x.........x.....', 'x.....x.........', 'x.........x..x..'], snare=[BACK], hat=['..x...x...x...x.', S4, '..xo..xo..xo..xo'], bass=['x..x......x..x..', '...x..x...x.....'], comp=['..x..x....x..x..', O4, *HELD]),
    'drum and bass': dict(bpm=(158, 180), sound='made', kick=['x.........x.....', 'x..x......x.....', 'x.........xx....'], snare=[BACK, '....x..o.o..x...', '....x..o.o..x..o'], hat=[E4, S4], ride=['................', E4], bass=['x...............', 'x.....x...x.....', 'x.........x.....'], comp=[*HELD, 'x.....x.........', O4], arp=[E4, S4], turn=(2, 1, 4)),
    'electro': dict(bpm=(106, 132), sound='made', kick=['x.....x...x.....', 'x..x......x.....', 'x..x..x...x.....'], snare=[BACK], hat=[S4, E4], bell=['................', 'x..x..x.x..x..x.'], bass=[S4, 'x.xx..x.x.xx..x.', E4], comp=[*HELD, 'x..x..x.........'], arp=[S4]),
    'synth pop': dict(bpm=(92, 138), sound='made', kick=[Q4, 'x.......x.......', 'x.....x.x.......'], snare=[BACK], hat=[E4, S4], bass=[S4, E4, 'x.xxx.xxx.xxx.xx'], comp=[*HELD, *PUSHED, E4], arp=[S4, E4], walks=('root', 'octaves'), has={'arp': 0.5, 'pad': 0.5}),
    'funk': dict(bpm=(88, 120), kick=['x.x.......x..x..', 'x..x..x...x.....', 'x......x..x.....'], snare=['....x..o.o..x..o', BACK, '....x..x.x..x...'], hat=[S4, E4, 'xoxxxoxxxoxxxoxx'], bass=['x.x....x..xx....', 'x..x..xx..x.x...', 'x.....xx.x....x.', '..x..x.x..x..x.x'], comp=['..xx..x...xx..x.', '.xx..x.x.xx..x.x', 'x......x..x.....', BACK]),
    'soul': dict(bpm=(92, 146), kick=['x.......x.......', 'x.....x.x.x.....', Q4], snare=[Q4, BACK, BACK], hat=[E4, Q4], tamb=[BACK, Q4, E4], bass=['x..x..x.x..x..x.', 'x.....xxx.....xx', 'x.x.x.x.x.x.x.x.', 'x...x.x.x..xx...'], comp=[BACK, Q4, E4, 'x.....x.........']),
    'gospel': dict(bpm=(64, 104), each=3, kick=['x.....x.....', 'x....xx....x'], snare=['...x.....x..'], hat=[T3, D3], clap=['............', '...x.....x..'], bass=['x....xx..x.x', Q3, 'x.....x....x'], comp=[T3, Q3, 'x....x..x..x'], turn=(1, 0.5)),
    'swing': dict(bpm=(110, 216), each=3, sound='soft', kick=['............', Q3, 'x...........'], rim=['............', '...x.....x..'], ride=['x..x.xx..x.x', 'x..x.xx..x.x', Q3], hat=['...x.....x..'], bass=[Q3, Q3, 'x.....x.....'], comp=['..x.....x...', 'x....x......', '...x.....x..', '.....x.....x', 'x..x..x..x..'], walks=('walking',), bare=0.15),
    'slow swing': dict(bpm=(58, 100), each=3, sound='soft', hat=['...x.....x..'], ride=['x..x.xx..x.x', Q3], kick=['............', 'x.....x.....'], bass=[Q3, 'x.....x.....', 'x....xx....x'], comp=['..x.....x...', 'x....x......', 'x...........', '.....x.....x'], walks=('walking', 'fifths'), turn=(1, 0.5), bare=0.15),
    'big band': dict(bpm=(118, 200), each=3, kick=[Q3], snare=['...x.....x..', '............', '.....o.....o'], hat=['...x.....x..'], ride=['x..x.xx..x.x'], bass=[Q3], comp=['x....x......', '.....x..x...', '...x.x.....x', 'x..x..x..x..'], walks=('walking',)),
    'jazz waltz': dict(bpm=(100, 190), meter=3, each=3, sound='soft', kick=['x........', '.........'], ride=['x..x.xx..', 'x..x.xx.x'], hat=['...x.....', '...x..x..'], bass=['x........', 'x..x..x..', 'x....x...'], comp=['x....x...', '...x..x..', '.....x..x', 'x........'], walks=('walking', 'fifths')),
    'waltz': dict(bpm=(82, 196), meter=3, each=2, sound='soft', bare=0.4, kick=['x.....'], snare=['..x.x.', '..o.o.'], hat=['x.x.x.', '......'], bass=['x.....', 'x...o.', 'x.x.x.'], comp=['..x.x.', '..x.x.', 'x.....', 'xxxxxx'], arp=['xxxxxx'], walks=('fifths', 'root')),
    'slow three': dict(bpm=(66, 116), meter=3, each=4, bare=0.2, kick=['x...........', 'x.....x.....', 'x.......x...'], snare=['........x...', '....x...x...'], hat=['x.x.x.x.x.x.', 'x...x...x...', 'xoxoxoxoxoxo'], bass=['x...........', 'x.......x...', 'x...x...x...'], comp=['x.x.x.x.x.x.', 'x...........', '....x...x...'], arp=['x.x.x.x.x.x.', 'xxxxxxxxxxxx']),
    'bossa': dict(bpm=(104, 160), sound='soft', kick=['x.....xxx.....xx', 'x.....x.x.....x.'], rim=['x.....x.....x.......x.....x.....', 'x.....x.....x...'], hat=[E4], shaker=[S4, E4], bass=['x.....x.x.....x.', 'x.....xxx.....xx'], comp=['x...x.....x...x.', '..x...x.x.....x.', 'x.....x.....x...'], walks=('fifths',)),
    'samba': dict(bpm=(88, 122), kick=['x..xx..xx..xx..x', 'x...x...x...x...'], shaker=['xooxxooxxooxxoox', S4], snare=['x.x.xx.xx.x.xx.x', '..x..x.x..x..x..'], bell=['x.x.xx.x.x.xx.x.', '................'], bass=['x..xx..xx..xx..x', 'x..x....x..x....', '..x.x.....x.x...'], comp=['x..x..x..x..x.x.', '..x..x.x..x..x..'], walks=('fifths', 'root')),
    'son': dict(bpm=(92, 116), kick=['...x...x...x...x', '................', 'x...............'], bell=['x.x.x.x.x.x.x.x.', 'x...x...x...x...'], rim=['x..x...x....x...', '....x.x...x..x..'], conga=['x..xxxx.x..xxxx.', '......xx......xx'], shaker=['................', E4], bass=['......x.....x...', '...x..x....x..x.', '......x.....x.......x.......x...'], comp=['x..x..x..x..x.x.', 'x.xx.xx.x.xx.xx.', '..xx..x.x.xx..x.']),
    'cha cha': dict(bpm=(106, 134), bell=[Q4], conga=['....x.......x.xx', '....x.x.....x.xx'], hat=[E4, Q4], bass=['x.....x.....x...', 'x...x.......x.x.', '..x.x.....x.x...'], comp=['..x...x...x...x.', '....x.......x...', 'x...x...x.x.x...'], kick=['................', 'x...............']),
    'dembow': dict(bpm=(82, 106), sound='made', kick=[Q4, 'x.......x.......'], snare=['...x..x....x..x.', '...x..x....x..x.', '...x..x....xx.x.'], hat=[E4, S4, '..x...x...x...x.'], bass=['x..x..x.x..x..x.', 'x.....x.x.....x.', 'x...............'], comp=['x..x..x.x..x..x.', *HELD, O4, '...x..x....x..x.']),
    'soca': dict(bpm=(108, 160), kick=[Q4, 'x..x..x.x..x..x.'], snare=['...x..x....x..x.', '......x.......x.', BACK], hat=[O4, S4], bell=['................', E4], bass=['x..x..x.x..x..x.', 'x..x....x..x....', E4], comp=[O4, '..xx..xx..xx..xx']),
    'one drop': dict(bpm=(66, 92), swing=(0, 0.4), kick=[BACK, '....x.......x...'], rim=[BACK, '....x.......x..x'], hat=[E4, 'x.x.x.xxx.x.x.xx', 'xoxoxoxoxoxoxoxo'], bass=['..x.x.....x.x...', 'x..x..x...x.x...', 'x.x...x.x.......', '..xxx.....x.....'], comp=[O4, O4, '..x...xx..x...xx'], turn=(1, 0.5, 2)),
    'steppers': dict(bpm=(66, 92), kick=[Q4], snare=[BACK, HALF], hat=[E4, S4], bass=['x..x..x.x..x..x.', 'x.xx..x...x.x...', 'x.....x.x.x.....'], comp=[O4, '..xx..xx..xx..xx']),
    'ska': dict(bpm=(118, 172), kick=['....x.......x...', Q4, 'x.......x.......'], snare=[BACK], hat=[O4, E4], bass=[Q4, E4, Q4], comp=[O4], walks=('walking', 'fifths')),
    'march': dict(bpm=(66, 132), bare=0.2, kick=['x.......x.......', Q4], snare=['....x.......x...', 'x.xxx.x.x.xxx.x.', 'x...xxx.x...x.x.', '..x...x...x...x.', 'x..xx.x.x..xx.xx'], bass=[Q4, 'x.......x.......', Q4], comp=[O4, '....x.......x...', Q4, E4], walks=('fifths',), sound='strings', turn=(1, 1, 2)),
    'polka': dict(bpm=(96, 140), kick=[Q4, 'x.......x.......'], snare=[O4, '..x...x...x...x.', BACK], hat=[O4, E4], bass=[Q4], comp=[O4, '..xo..xo..xo..xo'], walks=('fifths',), bare=0.2),
    'two step': dict(bpm=(84, 134), kick=['x.......x.......', Q4], snare=[BACK, O4, '..x...x...x...x.'], hat=[O4, E4, Q4], bass=['x.......x.......', 'x.......x.....x.', Q4], comp=[BACK, O4, 'x.x.x.x.x.x.x.x.', '..xx..xx..xx..xx'], walks=('fifths',)),
    'train': dict(bpm=(90, 140), kick=['x.......x.......', Q4], snare=['ooxoooxoooxoooxo', 'xoxoxoxoxoxoxoxo', 'ooxooxxoooxooxxo'], bass=['x.......x.......', Q4], comp=[O4, BACK, 'x.xxx.xxx.xxx.xx'], walks=('fifths', 'walking')),
    'bluegrass': dict(bpm=(104, 164), bare=0.8, kick=['x...x...x...x...'], snare=[O4], bass=['x...x...x...x...', 'x.......x.......'], comp=[O4], arp=[S4, E4, 'x.xxx.xxx.xxx.xx'], has={'arp': 0.8}, walks=('fifths',)),
    'folk': dict(bpm=(76, 132), bare=0.7, kick=['x.......x.......'], tamb=[BACK, E4], shaker=[E4], bass=['x.......x.......', 'x.....x.x.......'], comp=['x...x.xx..xxx.x.', 'x.x.x.x.x.x.x.x.', 'x...x.x...x.x.x.'], arp=[E4, S4, 'x.x.xxx.x.x.xxx.'], has={'arp': 0.5}),
    'jig': dict(bpm=(96, 136), each=3, bare=0.4, kick=['x.....x.....', Q3], conga=[T3, D3], tamb=[Q3, D3], bass=[Q3, 'x.....x.....'], comp=[Q3, D3, 'x..x..x..x..'], arp=[T3], has={'arp': 0.7, 'lead': 0.9}),
    'tango': dict(bpm=(100, 132), bare=0.6, sound='strings', kick=[Q4], snare=['............x.xx', '................'], bass=[Q4, 'x.....x.x...x...', 'x..x....x..x....'], comp=[Q4, 'x.....x.x...x...', 'x...x...x...x.x.']),
    'habanera': dict(bpm=(60, 112), bare=0.4, kick=['x.....x.x.....x.'], tamb=['x...x.xxx...x.xx'], bass=['x..xx.x.x..xx.x.', 'x.....x.x.....x.'], comp=['x..xx.x.x..xx.x.', O4, 'x...x.x.x...x.x.']),
    'rag': dict(bpm=(74, 108), bare=1, kick=[Q4], bass=[Q4, 'x...x...x.x.x.x.'], comp=[O4, O4], arp=['xx.xx.x.xx.xx.x.', 'x.xx.xx.x.xx.xx.', '.xx.xxx.xxxxx.x.'], has={'arp': 1}, sound='soft', walks=('fifths',), turn=(1, 0.5)),
    'chorale': dict(bpm=(58, 96), bare=1, kick=[Q4], bass=[Q4, 'x...x.x.x...x.x.', E4], comp=[Q4, Q4, 'x...x...x.x.x...', 'x.......x...x...'], sound='strings', turn=(0.25, 0.25, 0.5), walks=('walking', 'root')),
    'running notes': dict(bpm=(60, 116), bare=1, kick=[Q4], bass=[Q4, E4, 'x.......x.......', 'x.x.x.x.x.x.x.x.'], comp=[Q4, 'x.......x.......', O4], arp=[S4, S4, 'xxxxxxxxxxxx.x.x'], has={'arp': 1, 'comp': 0.5}, sound='strings', turn=(0.5, 1, 0.25), walks=('walking', 'root', 'octaves')),
    'broken chords': dict(bpm=(92, 168), bare=1, kick=[Q4], bass=['x...............', 'x.......x.......'], comp=[E4, Q4, 'x...............'], arp=[E4], has={'arp': 1, 'comp': 0.4, 'lead': 0.9}, sound='strings'),
    'minuet': dict(bpm=(92, 150), meter=3, each=4, bare=1, kick=['x...........'], bass=['x...x...x...', 'x.......x...', 'x...........'], comp=['x...x...x...', '....x...x...'], arp=['x.x.x.x.x.x.', 'x.x.x...x...'], has={'arp': 0.6, 'lead': 0.9}, sound='strings', walks=('walking', 'fifths')),
    'adagio': dict(bpm=(50, 80), bare=1, kick=[Q4], bass=['x...............', 'x.......x.......', Q4], comp=[E4, 'x.......x.......', Q4], arp=[E4, S4], has={'pad': 0.9, 'arp': 0.4, 'lead': 0.9}, sound='strings', turn=(1, 0.5)),
    'ostinato': dict(bpm=(84, 150), bare=0.3, sound='strings', kick=['x.......x.......', 'x..x..x...x.....', 'x..x..x.x..x..x.'], tom=['x..x..x.x..x..x.', S4, 'x.xxx.xxx.xxx.xx'], snare=['................', BACK], bass=[E4, 'x..x..x...x.....', S4, *HELD], comp=[S4, E4, 'x..x..x...x.x...', *HELD], arp=[S4, E4], has={'arp': 0.6, 'pad': 0.5}),
    'battle': dict(bpm=(130, 184), sound='strings', kick=['x.......x.x.....', 'x..x..x.........'], snare=[BACK, 'x.x.x.xxx.x.x.xx', 'x..x..x.x..x..x.'], hat=[E4, Q4], bass=[E4, E4, 'x..x..x.x..x..x.'], comp=[E4, *PUSHED, *HELD], arp=[E4, S4], has={'arp': 0.4}),
    'chip': dict(bpm=(100, 180), sound='made', kick=ROCK, snare=[BACK], hat=[E4, S4], bass=[E4, 'x.xxx.xxx.xxx.xx', O4], comp=[S4, E4], arp=[S4, S4, 'x..x..x.x..x..x.'], has={'arp': 0.8, 'lead': 0.9, 'comp': 0.4}, walks=('octaves', 'root')),
    'drifting': dict(bpm=(64, 116), sound='made', bare=0.6, kick=['x...............', 'x.......x.......'], hat=[E4, Q4], shaker=[E4, S4], bass=['x...............', 'x.......x.......', E4], comp=[*HELD, 'x.......x.......'], arp=[E4, S4, 'x..x..x..x..x.x.'], has={'arp': 0.8, 'pad': 0.8, 'lead': 0.4}, turn=(2, 1, 4)),
}
