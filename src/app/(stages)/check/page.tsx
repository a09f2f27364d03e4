import { CheckView } from '@/views/check';

export default function CheckPage() {
  return <CheckView />;
}
