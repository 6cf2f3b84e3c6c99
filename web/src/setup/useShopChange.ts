/** Puts a change of the shop in force, with the reason it carries on the record. */
import { useMutation } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { Shop } from '@cork-ember/core/contract/answers.ts';
import type { ShopParts } from '@cork-ember/core/contract/shopWords.ts';
import { ask } from '../api/client.ts';
import { usePerson } from '../api/person.ts';
import { refreshShop } from '../api/queries.ts';

export function useShopChange(onDone?: () => void) {
  const [by] = usePerson();
  return useMutation({
    mutationFn: (change: ShopParts & { readonly why: string }) => {
      if (by === '') throw new Error('Say who is at the bench first, at the top right.');
      return ask<Shop>('/api/shop/changes', { ...change, by });
    },
    onSuccess: () => {
      refreshShop();
      toast.success('In force for new jobs.');
      onDone?.();
    },
  });
}
