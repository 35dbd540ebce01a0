import { Button } from 'antd';
import { tokenNameOf } from '@tinfold/core/model';
import { takeOffers, type Offer } from '@tinfold/core/tokens';
import type { WorkbenchStore } from './store';
import { Places, Sample, Typed } from './tokenFields';

/** What a sort of value is called in words. */
const SORTS: Readonly<Record<Offer['sort'], string>> = {
  space: 'gaps and paddings',
  size: 'sizes and limits',
  type: 'type sizes',
  line: 'line heights',
  fill: 'fills',
  ink: 'words',
};

/** Values that stand somewhere without a name, each with one proposed. */
export function TokenOffers({
  use,
  offers,
}: {
  readonly use: WorkbenchStore;
  readonly offers: readonly Offer[];
}) {
  const { edit, selectAll } = use.getState();
  const root = use((s) => s.doc.root);
  const name = (offer: Offer, typed: string): boolean => {
    const word = tokenNameOf(typed);
    const token = { ...offer.token, name: word };
    return edit(`Token ${word}`, { kind: 'several', steps: takeOffers(root, [{ ...offer, token }]) });
  };
  return (
    <table className="token-table token-offers">
      <caption>
        Repeats without a name
        <Button
          size="small"
          type="text"
          onClick={() =>
            edit(`${offers.length} tokens`, { kind: 'several', steps: takeOffers(root, offers) })
          }
        >
          Name all {offers.length}
        </Button>
      </caption>
      <tbody>
        {offers.map((offer) => (
          <tr key={offer.token.name} data-offer={offer.token.name}>
            <th scope="row">
              <Sample value={offer.token.value} />
              {offer.token.value}
            </th>
            <td>
              {SORTS[offer.sort]}
              {offer.token.kind === 'length' &&
                offer.token.below?.map((step) => `, ${step.value} below ${step.width}`)}
            </td>
            <td>
              <Places parts={offer.places.map((p) => p.part)} onTake={selectAll} />
            </td>
            <td>
              <Typed
                label={`Name for ${offer.token.value} at ${SORTS[offer.sort]}`}
                value=""
                note={offer.token.name}
                take={(typed) => name(offer, typed)}
              />
            </td>
            <td>
              <Button size="small" onClick={() => name(offer, offer.token.name)}>
                Name it
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
