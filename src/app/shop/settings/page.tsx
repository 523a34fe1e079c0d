import { SettingsPage } from '@/ui/shop/settings/SettingsPage';

export default function Page() {
  return <SettingsPage />;
}
