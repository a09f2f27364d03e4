import { Start } from '@/views/start';

export default function Home() {
  return <Start />;
}
