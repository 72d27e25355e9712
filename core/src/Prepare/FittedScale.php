<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Expression\AsFrame;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Numbers on another scale. RowWise. */
final readonly class FittedScale implements FittedStep, AsFrame
{
    /** @param array<array-key, list<float>> $learned by column: where it begins and its width; for ranks the quantiles */
    public function __construct(private array $learned, private string $method)
    {
    }

    public function apply(Table $table): Table
    {
        foreach ($this->learned as $name => $learned) {
            if (!$table->has((string) $name)) {
                continue;
            }
            $values = $table->number((string) $name)->values;
            $out = [];
            if (Scale::LOG === $this->method) {
                foreach ($values as $v) {
                    $out[] = $v < 0.0 ? -log1p(-$v) : log1p($v);
                }
            } elseif (Scale::RANK === $this->method) {
                foreach ($values as $v) {
                    $out[] = is_nan($v) ? \NAN : self::rank($learned, $v);
                }
            } else {
                [$from, $width] = $learned;
                // A column that never varied says nothing: all of it is 0.
                foreach ($values as $v) {
                    $out[] = $width > 0.0 ? ($v - $from) / $width : (is_nan($v) ? \NAN : 0.0);
                }
            }
            $table = $table->with((string) $name, new NumberColumn($out));
        }

        return $table;
    }

    /**
     * The share of training rows at or below a value: the middle of the points equal to it, in between on a straight line.
     *
     * @param list<float> $points ascending
     */
    private static function rank(array $points, float $v): float
    {
        $last = \count($points) - 1;
        [$below, $upTo] = [self::before($points, $v, false), self::before($points, $v, true)];
        if ($upTo > $below) {
            return ($below + $upTo - 1) / 2 / max(1, $last);
        }
        if (0 === $below) {
            return 0.0;
        }
        [$before, $next] = [$points[$below - 1] ?? $v, $points[$below] ?? null];

        return null === $next ? 1.0 : ($below - 1 + ($v - $before) / ($next - $before)) / max(1, $last);
    }

    /**
     * How many points lie below a value, or below and at it.
     *
     * @param list<float> $points
     */
    private static function before(array $points, float $v, bool $with): int
    {
        $low = 0;
        $high = \count($points);
        while ($low < $high) {
            $middle = ($low + $high) >> 1;
            if ($points[$middle] < $v || $with && $points[$middle] === $v) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }

        return $low;
    }

    public function sentence(): string
    {
        $said = [];
        foreach ($this->learned as $name => $learned) {
            $said[] = $name.match ($this->method) {
                Scale::STANDARD => \sprintf(' (less %s, by %s)', Words::number($learned[0]), Words::number($learned[1])),
                Scale::RANGE => \sprintf(' (%s to %s)', Words::number($learned[0]), Words::number($learned[0] + $learned[1])),
                default => '',
            };
        }

        return \sprintf('%s %s.', match ($this->method) {
            Scale::STANDARD => 'Standardizes',
            Scale::RANGE => 'Puts on 0 to 1:',
            Scale::LOG => 'Takes the logarithm, ln(1 + x) either side of 0, of',
            default => 'Replaces by the share of training rows at or below:',
        }, Words::listed($said));
    }

    public function asks(array $wanted): array
    {
        return $wanted;
    }

    public function toArray(): array
    {
        return ['step' => 'scale', 'learned' => $this->learned, 'method' => $this->method];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{learned: array<array-key, list<float|int>>, method: string} $data */
        return new self(array_map(static fn (array $l) => array_map(floatval(...), $l), $data['learned']), $data['method']);
    }

    public function frame(Frame $frame): Frame
    {
        $made = [];
        foreach ($this->learned as $name => $learned) {
            if (!$frame->has((string) $name)) {
                continue;
            }
            if (Scale::RANK === $this->method) {
                throw new CannotExpress(\sprintf('%s becomes its rank among training rows, which is not written out yet.', $name));
            }
            $own = $frame->column((string) $name);
            if (Scale::LOG === $this->method) {
                $one = new Constant(1.0);
                $minus = Operation::of(Operator::Less, $one, $own);
                $made[$name] = [Kind::Number, new When(
                    Operation::of(Operator::Below, $own, new Constant(0.0)),
                    Operation::of(Operator::Less, new Constant(0.0), Operation::of(Operator::Log, $minus)),
                    Operation::of(Operator::Log, Operation::of(Operator::Add, $one, $own)),
                )];
                continue;
            }
            [$from, $width] = $learned;
            $less = Operation::of(Operator::Less, $own, new Constant($from));
            $made[$name] = [Kind::Number, $width > 0.0
                ? Operation::of(Operator::Over, $less, new Constant($width))
                : Operation::of(Operator::Times, $own, new Constant(0.0))];
        }

        return $frame->with($made);
    }
}
