import { houseOwnSchema, nothingOwn } from '@/core/record/house-own';
import { jsonSetting } from '@/store/settings';

/** What is usual in this house. */
export const houseOwn = jsonSetting('house-own', houseOwnSchema, nothingOwn);
