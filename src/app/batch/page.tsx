import { BatchDoor } from '@/views/batch';

export default function BatchPage() {
  return <BatchDoor />;
}
