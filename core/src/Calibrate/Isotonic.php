<?php

declare(strict_types=1);

namespace Dokimos\Core\Calibrate;

use Dokimos\Core\Expression\Constant;
use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\IsMissing;
use Dokimos\Core\Expression\Operation;
use Dokimos\Core\Expression\Operator;
use Dokimos\Core\Expression\When;

/**
 * The rising steps closest to what came, by pooling adjacent violators (Ayer et al. 1955). Definition: docs/methods/calibration.md.
 */
final readonly class Isotonic implements Calibrator
{
    public const NAME = 'isotonic';

    /**
     * @param non-empty-list<array{from: float, to: float, rows: int, weight: float, value: float}> $blocks by rising chance; values rise strictly
     */
    private function __construct(public array $blocks)
    {
    }

    /**
     * @param list<float>  $event   1 or 0 per row
     * @param list<float>  $chance  of the same rows
     * @param ?list<float> $weights
     *
     * @throws CannotCalibrate without a row that counts
     */
    public static function fit(array $event, array $chance, ?array $weights = null): self
    {
        $order = array_keys(array_filter(
            $chance,
            static fn (float $c, int $i): bool => ($weights[$i] ?? 1.0) > 0.0,
            \ARRAY_FILTER_USE_BOTH,
        ));
        usort($order, static fn (int $i, int $j): int => $chance[$i] <=> $chance[$j] ?: $i <=> $j);
        /** @var list<array{from: float, to: float, rows: int, weight: float, sum: float}> $pooled */
        $pooled = [];
        foreach ($order as $i) {
            $w = $weights[$i] ?? 1.0;
            $last = \count($pooled) - 1;
            // Rows of the same chance are one before anything is compared.
            if ($last >= 0 && $pooled[$last]['from'] === $chance[$i]) {
                ++$pooled[$last]['rows'];
                $pooled[$last]['weight'] += $w;
                $pooled[$last]['sum'] += $w * $event[$i];
            } else {
                $pooled[] = ['from' => $chance[$i], 'to' => $chance[$i], 'rows' => 1, 'weight' => $w, 'sum' => $w * $event[$i]];
            }
        }
        $blocks = [];
        foreach ($pooled as $block) {
            while ([] !== $blocks && ($before = $blocks[\count($blocks) - 1])['sum'] / $before['weight'] >= $block['sum'] / $block['weight']) {
                array_pop($blocks);
                $block = [
                    'from' => $before['from'], 'to' => $block['to'], 'rows' => $before['rows'] + $block['rows'],
                    'weight' => $before['weight'] + $block['weight'], 'sum' => $before['sum'] + $block['sum'],
                ];
            }
            $blocks[] = $block;
        }
        if ([] === $blocks) {
            throw new CannotCalibrate('No row counts, so there is nothing to hold chances against.');
        }

        return new self(array_map(static fn (array $b): array => [
            'from' => $b['from'], 'to' => $b['to'], 'rows' => $b['rows'], 'weight' => $b['weight'], 'value' => $b['sum'] / $b['weight'],
        ], $blocks));
    }

    /** The same steps with their ends kept off 0 and 1 by half a record: what was never seen is not impossible. */
    public function softened(): self
    {
        return new self(array_map(static function (array $b): array {
            $half = min(0.5, 0.5 / $b['weight']);

            return ['value' => max($half, min(1 - $half, $b['value']))] + $b;
        }, $this->blocks));
    }

    /** Of the last block that begins at or below the chance; below all the first. */
    public function step(float $chance): float
    {
        return $this->blocks[$this->place($chance)]['value'];
    }

    /** Between two blocks on the straight line from one to the other; within one its value. */
    public function of(float $chance): float
    {
        if (is_nan($chance)) {
            return \NAN;
        }
        $at = $this->place($chance);
        $block = $this->blocks[$at];
        $next = $this->blocks[$at + 1] ?? null;
        if ($chance <= $block['to'] || null === $next) {
            return $block['value'];
        }

        return $block['value'] + ($chance - $block['to']) / ($next['from'] - $block['to']) * ($next['value'] - $block['value']);
    }

    public function expression(Expression $chance): Expression
    {
        return new When(new IsMissing($chance), new Constant(null), $this->between($chance, 0, \count($this->blocks) - 1));
    }

    /** Blocks are halved until one is left, with the line to the next behind it. */
    private function between(Expression $chance, int $low, int $high): Expression
    {
        if ($low < $high) {
            $middle = ($low + $high + 1) >> 1;

            return new When(
                Operation::of(Operator::Below, $chance, new Constant($this->blocks[$middle]['from'])),
                $this->between($chance, $low, $middle - 1),
                $this->between($chance, $middle, $high),
            );
        }
        [$block, $next] = [$this->blocks[$low], $this->blocks[$low + 1] ?? null];
        if (null === $next) {
            return new Constant($block['value']);
        }
        $rise = ($next['value'] - $block['value']) / ($next['from'] - $block['to']);

        return new When(
            Operation::of(Operator::UpTo, $chance, new Constant($block['to'])),
            new Constant($block['value']),
            Operation::sum([
                new Constant($block['value']),
                Operation::of(Operator::Times, Operation::of(Operator::Less, $chance, new Constant($block['to'])), new Constant($rise)),
            ]),
        );
    }

    private function place(float $chance): int
    {
        [$low, $high] = [0, \count($this->blocks) - 1];
        while ($low < $high) {
            $middle = intdiv($low + $high + 1, 2);
            if ($this->blocks[$middle]['from'] <= $chance) {
                $low = $middle;
            } else {
                $high = $middle - 1;
            }
        }

        return $low;
    }

    public function toArray(): array
    {
        return ['way' => self::NAME, 'blocks' => array_map(static fn (array $b): array => [$b['from'], $b['to'], $b['rows'], $b['weight'], $b['value']], $this->blocks)];
    }

    /**
     * @param array<string, mixed> $kept
     *
     * @throws CannotCalibrate when no steps are kept
     */
    public static function read(array $kept): self
    {
        /** @var list<array{float|int, float|int, int, float|int, float|int}> $all */
        $all = \is_array($kept['blocks'] ?? null) ? $kept['blocks'] : [];
        $blocks = array_map(static fn (array $b): array => [
            'from' => (float) $b[0], 'to' => (float) $b[1], 'rows' => $b[2], 'weight' => (float) $b[3], 'value' => (float) $b[4],
        ], $all);

        return [] === $blocks ? throw new CannotCalibrate('No steps are kept.') : new self($blocks);
    }
}
