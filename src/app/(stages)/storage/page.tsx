import { StorageView } from '@/views/storage';

export default function StoragePage() {
  return <StorageView />;
}
