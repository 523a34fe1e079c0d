import { RecipesPage } from '@/ui/house/RecipesPage';

export default function Page() {
  return <RecipesPage />;
}
