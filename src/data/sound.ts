let context: AudioContext | null = null;

/** The page's one audio context, made when first asked for and running. */
export function audio(): AudioContext {
  context ??= new AudioContext();
  if (context.state === 'suspended') void context.resume();
  return context;
}

/** A short tone that dies away: hertz, seconds, when on the context's clock, loudness 0..1. Gives it back, to be stopped before. */
export function tone(frequency: number, length: number, at: number, loudness: number): AudioScheduledSourceNode {
  const a = audio();
  const source = a.createOscillator();
  const gain = a.createGain();
  source.frequency.value = frequency;
  gain.gain.setValueAtTime(loudness, at);
  gain.gain.exponentialRampToValueAtTime(0.001, at + length);
  source.connect(gain).connect(a.destination);
  source.start(at);
  source.stop(at + length + 0.01);
  return source;
}
