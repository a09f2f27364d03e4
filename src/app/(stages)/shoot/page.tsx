import { ShootView } from '@/views/shoot';

export default function ShootPage() {
  return <ShootView />;
}
