<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Values beyond limits are capped, made missing, or taken out with their row. RowWise. */
final readonly class FittedLimits implements TakesOut, AsFrame
{
    private const CAP = 0;
    private const EMPTY = 1;
    private const TAKE_OUT = 2;

    /**
     * @param array<array-key, array{?float, ?float}> $limits lowest and highest value allowed, by column
     * @param int                                     $hit    cells beyond them in the table it was fitted on
     */
    public function __construct(private array $limits, private int $action, private int $hit)
    {
    }

    public function apply(Table $table): Table
    {
        foreach (self::TAKE_OUT === $this->action ? [] : $this->limits as $name => [$low, $high]) {
            if (!$table->has((string) $name)) {
                continue;
            }
            $values = [];
            foreach ($table->number((string) $name)->values as $v) {
                $values[] = match (true) {
                    null !== $low && $v < $low => self::CAP === $this->action ? $low : \NAN,
                    null !== $high && $v > $high => self::CAP === $this->action ? $high : \NAN,
                    default => $v,
                };
            }
            $table = $table->with((string) $name, new NumberColumn($values));
        }

        return $table;
    }

    public function out(Table $table): array
    {
        $out = [];
        foreach (self::TAKE_OUT === $this->action ? $this->limits : [] as $name => [$low, $high]) {
            foreach ($table->has((string) $name) ? $table->number((string) $name)->values : [] as $row => $v) {
                if (null !== $low && $v < $low || null !== $high && $v > $high) {
                    $out[$row] ??= $name.' beyond its limits';
                }
            }
        }

        return $out;
    }

    public function sentence(): string
    {
        $said = [];
        foreach ($this->limits as $name => [$low, $high]) {
            $said[] = $name.' '.match (true) {
                null === $low && null === $high => '(no limit: more than half of its values are equal)',
                null === $low => 'above '.Words::number((float) $high),
                null === $high => 'below '.Words::number($low),
                default => \sprintf('outside %s to %s', Words::number($low), Words::number($high)),
            };
        }

        return \sprintf('%s %s: %s.', match ($this->action) {
            self::CAP => 'Caps',
            self::EMPTY => 'Makes missing',
            default => 'Takes out the rows of',
        }, Words::count($this->hit, 'value'), Words::listed($said));
    }

    public function asks(array $wanted): array
    {
        return Asked::before($wanted, [], self::TAKE_OUT === $this->action ? array_map(strval(...), array_keys($this->limits)) : []);
    }

    public function toArray(): array
    {
        return ['step' => 'outliers', 'limits' => $this->limits, 'action' => $this->action, 'hit' => $this->hit];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{limits: array<array-key, array{?float, ?float}>, action: int, hit: int} $data */
        return new self(array_map(static fn (array $l) => [null === $l[0] ? null : (float) $l[0], null === $l[1] ? null : (float) $l[1]], $data['limits']), $data['action'], $data['hit']);
    }

    public function frame(Frame $frame): Frame
    {
        $made = [];
        foreach ($this->limits as $name => [$low, $high]) {
            if (!$frame->has((string) $name)) {
                continue;
            }
            $own = $held = $frame->column((string) $name);
            foreach ([[$low, true], [$high, false]] as [$limit, $isLow]) {
                if (null === $limit) {
                    continue;
                }
                $at = new Constant($limit);
                $beyond = $isLow ? Operation::of(Operator::Below, $own, $at) : Operation::of(Operator::Below, $at, $own);
                if (self::TAKE_OUT === $this->action) {
                    $frame = $frame->takingOut($beyond);
                } else {
                    $held = new When($beyond, self::CAP === $this->action ? $at : new Constant(null), $held);
                }
            }
            if ($held !== $own) {
                $made[$name] = [Kind::Number, $held];
            }
        }

        return $frame->with($made);
    }
}
