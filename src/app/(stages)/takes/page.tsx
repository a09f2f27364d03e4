import { TakesView } from '@/views/takes';

export default function TakesPage() {
  return <TakesView />;
}
