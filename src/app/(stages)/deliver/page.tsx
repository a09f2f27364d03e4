import { DeliverView } from '@/views/deliver';

export default function DeliverPage() {
  return <DeliverView />;
}
