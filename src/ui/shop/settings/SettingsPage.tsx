'use client';

import { useShopSettings } from '../../data/settings';
import { Profiles } from '../Profiles';
import { Beginnings } from './Beginnings';
import { Changes } from './Changes';
import { Limits } from './Limits';
import { Materials } from './Materials';
import { Names } from './Names';
import { People } from './People';
import { Sheets } from './Sheets';
import { ThisScreen } from './ThisScreen';
import { UnitChoice } from './UnitChoice';

/** What the shop decides once for all its jobs. */
export function SettingsPage() {
  const { data: shop, error } = useShopSettings();
  if (error) return <p className="trouble">{error.message}</p>;
  if (!shop) return null;
  return (
    <div className="shop-parts settings">
      <div>
        <Beginnings shop={shop} />
        <Materials shop={shop} />
      </div>
      <div>
        <UnitChoice shop={shop} />
        <Sheets shop={shop} />
        <Names shop={shop} />
      </div>
      <div>
        <People shop={shop} />
        <Limits shop={shop} />
        <Profiles />
        <ThisScreen />
      </div>
      <Changes shop={shop} />
    </div>
  );
}
