import { PlanView } from '@/views/plan';

export default function PlanPage() {
  return <PlanView />;
}
