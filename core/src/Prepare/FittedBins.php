<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Profile\QuantileBins;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Numbers in bins (a, b], as one category or as one yes/no mark a cut point. RowWise. */
final readonly class FittedBins implements FittedStep, AsFrame
{
    /** @param array<array-key, list<float>> $cuts inner cut points, ascending, by column */
    public function __construct(public array $cuts, private bool $marks, private string $method)
    {
    }

    public static function markName(string $column, float $cut): string
    {
        return $column.'_over_'.NumberColumn::write($cut);
    }

    /**
     * @param list<float> $cuts
     *
     * @return list<string> what the bins are called, in their order
     */
    public static function labels(array $cuts): array
    {
        if ([] === $cuts) {
            return ['any'];
        }
        $written = array_map(Words::number(...), $cuts);
        $labels = ['up to '.$written[0]];
        for ($i = 1; $i < \count($cuts); ++$i) {
            $labels[] = 'over '.$written[$i - 1].' to '.$written[$i];
        }
        $labels[] = 'over '.$written[\count($cuts) - 1];

        // Cut points closer than four digits tell get all their digits.
        return \count(array_unique($labels)) === \count($labels) ? $labels : array_map(static fn (int $i) => match ($i) {
            0 => 'up to '.NumberColumn::write($cuts[0]),
            \count($cuts) => 'over '.NumberColumn::write($cuts[$i - 1]),
            default => 'over '.NumberColumn::write($cuts[$i - 1]).' to '.NumberColumn::write($cuts[$i]),
        }, range(0, \count($cuts)));
    }

    public function apply(Table $table): Table
    {
        foreach ($this->cuts as $name => $cuts) {
            $name = (string) $name;
            if (!$table->has($name)) {
                continue;
            }
            $codes = QuantileBins::codes($table->number($name)->values, $cuts);
            if (!$this->marks) {
                $table = $table->with($name, new CodedColumn($codes, self::labels($cuts)));
                continue;
            }
            foreach ($cuts as $i => $cut) {
                $table = $table->with(self::markName($name, $cut), new CodedColumn(array_map(static fn (int $c) => $c < 0 ? -1 : ($c > $i ? 0 : 1), $codes), ['yes', 'no'], Kind::YesNo));
            }
            $table = $table->without([$name]);
        }

        return $table;
    }

    public function sentence(): string
    {
        $said = [];
        foreach ($this->cuts as $name => $cuts) {
            $said[] = [] === $cuts ? \sprintf('%s (no cut: one bin)', $name) : \sprintf('%s (cut at %s)', $name, Words::listed(array_map(Words::number(...), $cuts), 6));
        }

        return \sprintf('Puts into bins, %s, %s: %s.', Bins::OWN === $this->method ? 'with own cut points' : $this->method, $this->marks ? 'as ordered yes/no marks' : 'as one category', Words::listed($said));
    }

    public function asks(array $wanted): array
    {
        $made = [];
        foreach ($this->marks ? $this->cuts : [] as $name => $cuts) {
            foreach ($cuts as $cut) {
                $made[self::markName((string) $name, $cut)] = [(string) $name];
            }
        }

        return Asked::before($wanted, $made);
    }

    public function toArray(): array
    {
        return ['step' => 'bins', 'cuts' => $this->cuts, 'marks' => $this->marks, 'method' => $this->method];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{cuts: array<array-key, list<float|int>>, marks: bool, method: string} $data */
        return new self(array_map(static fn (array $c) => array_map(floatval(...), $c), $data['cuts']), $data['marks'], $data['method']);
    }

    public function frame(Frame $frame): Frame
    {
        foreach ($this->cuts as $name => $cuts) {
            $name = (string) $name;
            if (!$frame->has($name)) {
                continue;
            }
            $own = $frame->column($name);
            $made = [];
            if ($this->marks) {
                foreach ($cuts as $cut) {
                    $over = new When(Operation::of(Operator::Below, new Constant($cut), $own), new Constant('yes'), new Constant('no'));
                    $made[self::markName($name, $cut)] = [Kind::YesNo, new When(new IsMissing($own), new Constant(null), $over)];
                }
                $frame = $frame->with($made)->without([$name]);
                continue;
            }
            $labels = self::labels($cuts);
            $label = new Constant($labels[\count($cuts)]);
            foreach (array_reverse($cuts, true) as $i => $cut) {
                $label = new When(Operation::of(Operator::UpTo, $own, new Constant($cut)), new Constant($labels[$i]), $label);
            }
            $frame = $frame->with([$name => [Kind::Category, new When(new IsMissing($own), new Constant(null), $label)]]);
        }

        return $frame;
    }
}
