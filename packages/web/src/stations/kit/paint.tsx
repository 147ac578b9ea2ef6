import { buyings, numberSaid, type Studio } from '@viaticum/contract';
import { type KitMix, type KitTube, mlInWords, moneyInWords, readMoney, tubesInWords } from '@viaticum/core/kit';
import { tubeRgb } from '@viaticum/core/mix';
import { listInWords, tubeSize, volumeMeant, volumeShown, volumeUnit } from '@viaticum/core/units';
import { cssRgb } from '@viaticum/kernels/colour';
import { Button, Input, Popover, Segmented, Select, Table } from 'antd';
import { useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { Fold } from '../../ui/fold.js';
import { NumberField } from '../../ui/number-field.js';
import { saveFile } from '../../ui/save-file.js';
import { kitWords } from '../../words/kit.js';
import css from './kit.module.css';
import type { Kit } from './use-kit.js';

const w = kitWords.paint;
/** How light each part of a loss bar is, in one scale of greys. */
const greys = ['--grey-12', '--grey-31', '--grey-45', '--grey-58', '--grey-70', '--grey-82'] as const;

/** Tubes with what the group needs, has and buys of them; each with its mixes and where their paint goes. */
export function Paint({ kit }: { kit: Kit }) {
  const { lesson, paint, studio, money, saveStudio, fault } = kit;
  const session = useSession();
  const shares = (tubeId: string) => paint.mixes.filter(({ premix }) => usesTube(kit, premix.mix.id, tubeId));
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <p>{w.about(paint.canvasMl, paint.headMl)}</p>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      <div className={css.asked}>
        <span>
          {w.currency}
          <Input
            aria-label={w.currency}
            key={studio.currency}
            defaultValue={studio.currency}
            maxLength={3}
            style={{ width: 80 }}
            onBlur={(event) => {
              const currency = event.target.value.trim().toUpperCase();
              if (/^[A-Z]{3}$/.test(currency) && currency !== studio.currency) saveStudio({ currency });
              else event.target.value = studio.currency;
            }}
          />
        </span>
        <span>
          {w.buys}
          <Segmented
            aria-label={w.buys}
            value={lesson.kit?.buys ?? 'mean'}
            options={buyings.map((value) => ({ value, label: w.buying[value] }))}
            onChange={(buys) => session.do('editKit', { kit: { buys } })}
          />
        </span>
        <Button onClick={() => void saveCsv(kit)}>{w.csv}</Button>
      </div>
      <Table<KitTube>
        size="small"
        pagination={false}
        rowKey={({ tube }) => tube.id}
        dataSource={paint.tubes}
        data-testid="kit-tubes"
        expandable={{ expandedRowRender: ({ tube }) => <Mixes kit={kit} mixes={shares(tube.id)} /> }}
        columns={[
          {
            title: w.columns.tube,
            render: (_, one) => (
              <>
                <i className={css.swatch} style={{ background: cssRgb(tubeRgb(one.tube, lesson.finish)) }} />
                {one.name}
              </>
            ),
          },
          { title: w.columns.head, align: 'right', render: (_, one) => <span className="numbers">{mlInWords(one.headMl)}</span> },
          {
            title: w.columns.group,
            align: 'right',
            render: (_, one) => (
              <span className="numbers">
                {mlInWords(one.groupMl)}
                <br />
                <span className="small quiet">{w.sure(one.sureMl)}</span>
              </span>
            ),
          },
          {
            title: w.columns.sharing,
            render: (_, one) => (
              <Select
                aria-label={`${w.columns.sharing}: ${one.name}`}
                size="small"
                value={one.sharing}
                style={{ width: 130 }}
                options={Object.entries(w.sharings).map(([value, label]) => ({ value, label }))}
                onChange={(how) => session.do('setSharing', { tubeId: one.tube.id, how })}
              />
            ),
          },
          {
            title: w.columns.stock(),
            align: 'right',
            render: (_, one) => (
              <NumberField
                label={`${w.columns.stock()}: ${one.name}`}
                value={volumeShown(one.stockMl)}
                onValue={(typed) => {
                  const ml = volumeMeant(typed);
                  if (ml < 0 || ml > 100_000) return false;
                  saveStudio({
                    stock: [
                      ...studio.stock.filter(({ paint: key }) => key !== one.key),
                      ...(ml > 0 ? [{ paint: one.key, ml }] : []),
                    ],
                  });
                  return true;
                }}
              />
            ),
          },
          {
            title: w.columns.buy,
            render: (_, one) => (
              <>
                <b className="numbers">{tubesInWords(one.buy.sizes)}</b>
                {one.isPriced && one.buy.sizes.length > 0 && <span className="numbers">, {money(one.buy.costMinor)}</span>}
                <br />
                <span className="small quiet">
                  {one.buy.sizes.length > 0 && w.left(one.buy.leftMl)}
                  {one.more && ` · ${w.more(money(one.more.moreMinor), one.more.moreMl)}`}
                </span>
              </>
            ),
          },
          {
            title: w.columns.price,
            render: (_, one) => <Prices tube={one} studio={studio} onPrices={(prices) => saveStudio({ prices })} />,
          },
        ]}
        summary={() => (
          <Table.Summary.Row>
            <Table.Summary.Cell index={0} />
            <Table.Summary.Cell index={1}>
              <b>{w.sum}</b>
            </Table.Summary.Cell>
            <Table.Summary.Cell index={2} align="right">
              <b className="numbers">{mlInWords(paint.headMl)}</b>
            </Table.Summary.Cell>
            <Table.Summary.Cell index={3} align="right">
              <b className="numbers">{mlInWords(paint.groupMl)}</b>
            </Table.Summary.Cell>
            <Table.Summary.Cell index={4} colSpan={2} />
            <Table.Summary.Cell index={6} colSpan={2}>
              <b className="numbers">{paint.cashMinor === null ? '' : money(paint.cashMinor)}</b>
            </Table.Summary.Cell>
          </Table.Summary.Row>
        )}
      />
      <Fold head={w.losses}>
        <p className="small quiet">{w.lossesAbout}</p>
        <div className={css.asked}>
          {Object.entries(w.lossNames).map(([key, name]) => (
            <span key={key}>
              {name}
              <NumberField
                label={name}
                unit="%"
                value={Math.round(100 * studio.losses[key as keyof typeof w.lossNames])}
                onValue={(percent) => {
                  if (!(percent >= 0 && percent <= 500)) return false;
                  saveStudio({ losses: { ...studio.losses, [key]: percent / 100 } });
                  return true;
                }}
              />
            </span>
          ))}
        </div>
      </Fold>
      {paint.unpriced.length > 0 && <p className="small quiet">{w.unpriced(listInWords(paint.unpriced))}</p>}
    </section>
  );
}

const usesTube = ({ lesson }: Kit, mixId: string, tubeId: string, depth = 0): boolean => {
  const mix = lesson.mixes.find((one) => one.id === mixId);
  if (!mix || depth > 9) return false;
  return (
    mix.recipe.some((part) => part.tubeId === tubeId) ||
    (mix.mixedFrom ?? []).some((part) => usesTube({ lesson } as Kit, part.mixId, tubeId, depth + 1))
  );
};

/** Where the paint of each mix goes, as a bar and in words. */
function Mixes({ mixes }: { kit: Kit; mixes: readonly KitMix[] }) {
  return (
    <Table<KitMix>
      size="small"
      pagination={false}
      showHeader={false}
      rowKey={({ premix }) => premix.mix.id}
      dataSource={[...mixes]}
      columns={[
        { title: w.mix, width: '26%', render: (_, { premix }) => premix.mix.name },
        {
          title: w.columns.head,
          width: '12%',
          align: 'right',
          render: (_, { volume, premix }) => (
            <span className="numbers">{mlInWords(premix.batch ? volume.portion : volume.total)}</span>
          ),
        },
        { title: w.where, render: (_, { volume }) => <Losses volume={volume} /> },
      ]}
    />
  );
}

function Losses({ volume }: { volume: KitMix['volume'] }) {
  const parts = Object.entries(w.parts)
    .map(([key, name], i) => ({ name, ml: volume[key as keyof typeof w.parts], grey: greys[i] as string }))
    .filter(({ ml }) => ml > 0.005);
  return (
    <>
      <span className={css.losses} aria-hidden="true">
        {parts.map(({ name, ml, grey }) => (
          <i key={name} style={{ flexGrow: ml, background: `var(${grey})` }} title={name} />
        ))}
      </span>
      <span className={css.lossWords}>{parts.map(({ name, ml }) => `${name} ${mlInWords(ml)}`).join(', ')}</span>
    </>
  );
}

/** The sizes in which a tube is sold, with their prices. */
function Prices({ tube, studio, onPrices }: { tube: KitTube; studio: Studio; onPrices: (prices: Studio['prices']) => void }) {
  const [size, setSize] = useState('');
  const [price, setPrice] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const own = studio.prices.filter(({ paint }) => paint === tube.key).sort((one, other) => one.sizeMl - other.sizeMl);
  const add = () => {
    const sizeMl = volumeMeant(Number(size.trim().replace(',', '.')));
    const priceMinor = readMoney(price, studio.currency);
    if (!(sizeMl >= 1 && sizeMl <= 5000)) return setFault(w.badSize());
    if (priceMinor === null) return setFault(w.badPrice);
    if (own.some((one) => tubeSize(one.sizeMl) === tubeSize(sizeMl))) return setFault(w.twice);
    setFault(null);
    setSize('');
    setPrice('');
    onPrices([...studio.prices, { paint: tube.key, sizeMl, priceMinor }]);
  };
  const list = (
    <div className={css.sizes}>
      {own.map((one) => (
        <p key={one.sizeMl}>
          <span className="numbers">{w.priceOf(one.sizeMl, moneyInWords(one.priceMinor, studio.currency))}</span>
          <Button
            size="small"
            onClick={() => onPrices(studio.prices.filter((other) => other !== one))}
            aria-label={w.removeSize(one.sizeMl)}
          >
            ×
          </Button>
        </p>
      ))}
      <Input
        aria-label={w.size()}
        placeholder={w.size()}
        value={size}
        inputMode="decimal"
        onChange={(event) => setSize(event.target.value)}
      />
      <Input
        aria-label={w.price}
        placeholder={`${w.price}, ${studio.currency}`}
        value={price}
        inputMode="decimal"
        onChange={(event) => setPrice(event.target.value)}
        onPressEnter={add}
      />
      {fault && (
        <span className="signal" role="alert">
          {fault}
        </span>
      )}
      <Button onClick={add}>{w.addSize}</Button>
    </div>
  );
  const says = tube.sizes.map(({ ml, priceMinor }) =>
    tube.isPriced ? w.priceOf(ml, moneyInWords(priceMinor, studio.currency)) : numberSaid(tubeSize(ml)),
  );
  return (
    <Popover trigger="click" content={list} title={w.prices(tube.name)}>
      <Button
        type="link"
        size="small"
        aria-label={w.prices(tube.name)}
        style={{ whiteSpace: 'normal', textAlign: 'left', height: 'auto' }}
      >
        {tube.isPriced ? says.join(', ') : w.addSize}
      </Button>
    </Popover>
  );
}

const saveCsv = async ({ lesson, paint, studio }: Kit) => {
  const { paintCsv } = await import('@viaticum/core/format');
  const rows = paint.tubes.map((one) => ({
    name: one.name,
    headMl: one.headMl,
    groupMl: one.groupMl,
    sureMl: one.sureMl,
    haveMl: one.stockMl,
    buy: tubesInWords(one.buy.sizes),
    cost: one.isPriced ? moneyInWords(one.buy.costMinor, studio.currency) : '',
  }));
  saveFile(
    `${lesson.title}, paint.csv`,
    new Blob([paintCsv(rows, studio.currency, { unit: volumeUnit(), shown: volumeShown })], { type: 'text/csv' }),
  );
};
