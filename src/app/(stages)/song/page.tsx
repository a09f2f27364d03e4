import { SongView } from '@/views/song';

export default function SongPage() {
  return <SongView />;
}
