import { DevicesView } from '@/views/devices';

export default function DevicesPage() {
  return <DevicesView />;
}
