import { ScoreView } from '@/views/score';

export default function ScorePage() {
  return <ScoreView />;
}
