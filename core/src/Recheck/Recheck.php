<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Figure\Auc;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Rmse;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Math\Holm;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/**
 * A model on newer records whose outcomes are known, held against what it was examined on. Two tests decide, adjusted for each other
 * (Holm):
 * whether the study's figure is worse, and whether what is promised has parted from what comes. Definition: docs/methods/recheck.md.
 */
final readonly class Recheck
{
    private const LEVEL = 0.05;
    /** A loss is to be seen four times in five. */
    private const POWER = 0.8416212335729143;

    /**
     * @param list<Line>   $lines   figures, the one that decides first
     * @param list<string> $reasons why the verdict is what it is, in sentences
     * @param ?float       $visible the smallest loss that could have been seen four times in five
     * @param ?float       $matters the loss that matters
     */
    private function __construct(
        public Verdict $verdict,
        public array $lines,
        public ?Promise $promise,
        public array $reasons,
        public ?float $visible,
        public ?float $matters,
        public int $rowsThen,
        public int $rowsNow,
    ) {
    }

    /**
     * @param Judged        $then    records that the model had not learned from
     * @param Judged        $now     newer ones
     * @param Figure        $figure  that trials of the study are ranked by
     * @param ?CutOff       $cutOff  from which chance on an event is called
     * @param ?float        $matters the loss that matters, in units of the figure; half of what the model gains over doing nothing if null
     * @param list<string>  $lacking columns that it needs and that the newer records do not have
     * @param ?list<Figure> $beside  further figures that are shown; null = all that a trial's page gives
     */
    public static function of(
        Judged $then,
        Judged $now,
        Figure $figure,
        ?CutOff $cutOff = null,
        ?float $matters = null,
        array $lacking = [],
        ?array $beside = null,
    ): self {
        [$then, $now] = [$then->known(), $now->known()];
        $lines = [self::line($figure, $then, $now, true)];
        $beside ??= array_filter(Figures::of($then->task), static fn (Figure $f): bool => $f->judged && $f->ranks);
        foreach ($beside as $other) {
            if ($other->key !== $figure->key) {
                $lines[] = self::line($other, $then, $now, false);
            }
        }
        if (Task::TWO === $then->task && null !== $cutOff) {
            array_push($lines, ...self::calls($then, $now, $cutOff));
        }
        $promise = Promise::of($then, $now);
        $first = $lines[0];
        $gain = null === $first->then->value || null === $first->baseline ? null : abs($first->then->value - $first->baseline);
        $matters ??= null === $gain ? null : 0.5 * $gain;
        $se = self::spread($first);
        $visible = null === $se ? null : (Normal::Z95 + self::POWER) * $se;
        [$verdict, $reasons] = self::told($figure, $first, $promise, $visible, $matters, $lacking, $now->rows());

        return new self($verdict, $lines, $promise, $reasons, $visible, $matters, $then->rows(), $now->rows());
    }

    private static function line(Figure $figure, Judged $then, Judged $now, bool $decides): Line
    {
        [$a, $b] = [$then->sample(), $now->sample()];
        if ($figure instanceof Rmse && $then->rows() > 1 && $now->rows() > 1) {
            return self::ofErrors($figure, $then, $now, $decides, null === $b ? null : $figure->baseline($b));
        }
        $own = null === $a ? null : $figure->interval($a);
        $new = null === $b ? null : $figure->interval($b);
        $difference = null === $own || null === $new ? null : $new->less($own);
        $p = null;
        $enough = null !== $difference && null !== $difference->value;
        // Where there is a formula, the test is that of the formula.
        if ($enough && $figure instanceof Auc) {
            $told = Periods::auc($then->outcome, $then->answers->values, $now->outcome, $now->answers->values);
            $difference = new Interval($told['difference'], $told['low'], $told['high']);
            $p = $told['p'];
        } elseif ($enough) {
            $p = self::chance($difference);
        }

        return new Line(
            $figure->key,
            $figure->name,
            $figure->title,
            $own ?? new Interval($figure->value($then->outcome, $then->answers)),
            $new ?? new Interval($figure->value($now->outcome, $now->answers)),
            $difference,
            $p,
            $decides,
            null === $b ? null : $figure->baseline($b),
            $figure->more,
            $figure->inShare,
            $figure->inUnits,
        );
    }

    /** Intervals and difference by the delta method, so that they belong together. */
    private static function ofErrors(Rmse $figure, Judged $then, Judged $now, bool $decides, ?float $baseline): Line
    {
        $told = Periods::rmse($then->outcome, $then->answers->values, $now->outcome, $now->answers->values);
        $with = static fn (string $of): Interval => new Interval(
            $told[$of],
            max(0.0, $told[$of] - Normal::Z95 * sqrt($told['variance_'.$of])),
            $told[$of] + Normal::Z95 * sqrt($told['variance_'.$of]),
        );

        return new Line(
            $figure->key,
            $figure->name,
            $figure->title,
            $with('training'),
            $with('newer'),
            new Interval($told['difference'], $told['low'], $told['high']),
            $told['p'],
            $decides,
            $baseline,
            false,
            inUnits: true,
        );
    }

    /** By the half of its interval that reaches toward none. */
    private static function chance(Interval $difference): float
    {
        $d = (float) $difference->value;
        $half = $d < 0.0 ? (float) $difference->high - $d : $d - (float) $difference->low;

        return $half > 0.0 ? (new Normal())->twoSided($d / ($half / Normal::Z95)) : (0.0 === $d ? 1.0 : 0.0);
    }

    /**
     * What operations see: how many of the events are called, and how many calls are right.
     *
     * @return list<Line>
     */
    private static function calls(Judged $then, Judged $now, CutOff $cutOff): array
    {
        $shares = [];
        foreach ([$then, $now] as $of) {
            $events = $called = $hits = 0;
            foreach ($of->outcome as $row => $y) {
                $calls = $cutOff->calls($of->answers->first($row));
                $events += $y > 0.5 ? 1 : 0;
                $called += $calls ? 1 : 0;
                $hits += $calls && $y > 0.5 ? 1 : 0;
            }
            $shares[] = [Interval::wilson((float) $hits, (float) $events), Interval::wilson((float) $hits, (float) $called)];
        }
        $lines = [];
        foreach ([
            ['caught', 'Caught', 'share of the events that are called'],
            ['right', 'Right, if called', 'share of the calls with the event'],
        ] as $k => [$key, $name, $title]) {
            $difference = $shares[1][$k]->less($shares[0][$k]);
            $lines[] = new Line(
                $key,
                $name,
                $title,
                $shares[0][$k],
                $shares[1][$k],
                $difference,
                null === $difference ? null : self::chance($difference),
                false,
                null,
                true,
                true,
            );
        }

        return $lines;
    }

    private static function spread(Line $line): ?float
    {
        $d = $line->difference;

        return null === $d || null === $d->low || null === $d->high ? null : ($d->high - $d->low) / 2 / Normal::Z95;
    }

    /**
     * @param list<string> $lacking
     *
     * @return array{Verdict, list<string>}
     */
    private static function told(
        Figure $figure,
        Line $line,
        ?Promise $promise,
        ?float $visible,
        ?float $matters,
        array $lacking,
        int $rows,
    ): array {
        if ([] !== $lacking) {
            return [Verdict::NoLonger, [\sprintf('The newer records lack %s, which the model needs.', implode(', ', $lacking))]];
        }
        if (null === $line->p || null === $visible || null === $line->difference) {
            return [Verdict::TooFew, [\sprintf(
                'With %s newer records %s cannot be told with an interval.',
                number_format($rows),
                $figure->name,
            )]];
        }
        // Two figures decide: the interval that has to lie at or below doing nothing holds for both at once.
        $wide = (new Normal())->quantile(1.0 - self::LEVEL / 4) / Normal::Z95;
        $all = null === $line->now->value ? null : $line->now->around($line->now->value, $wide);
        if (null !== $all && null !== $line->baseline && null !== $all->low && null !== $all->high
            && ($line->more ? $all->high <= $line->baseline : $all->low >= $line->baseline)) {
            return [Verdict::NoLonger, [\sprintf(
                '%s is %s (%s to %s, adjusted), no better than doing nothing (%s).',
                $figure->name,
                $figure->said($line->now->value),
                $figure->said($all->low),
                $figure->said($all->high),
                $figure->said($line->baseline),
            )]];
        }
        $p = Holm::adjusted(array_filter(['figure' => $line->p, 'promise' => $promise?->p], is_float(...)));
        $isWorse = $line->difference->value > 0.0 !== $line->more && $p['figure'] < self::LEVEL;
        $isOff = isset($p['promise']) && $p['promise'] < self::LEVEL;
        $reasons = [];
        if ($isWorse) {
            $reasons[] = \sprintf(
                '%s %s from %s to %s (p = %s, adjusted).',
                $figure->name,
                $line->more ? 'fell' : 'rose',
                $figure->said($line->then->value),
                $figure->said($line->now->value),
                self::small($p['figure']),
            );
        }
        if ($isOff && null !== $promise) {
            $reasons[] = Task::NUMBER === ($figure->tasks[0] ?? '')
                ? \sprintf(
                    'Predictions run %s by %s more than before (p = %s, adjusted).',
                    $promise->change->value > 0.0 ? 'low' : 'high',
                    $figure->said(abs((float) $promise->change->value)),
                    self::small($p['promise']),
                )
                : \sprintf(
                    'Chances run %.1f points %s (p = %s, adjusted).',
                    100 * abs((float) $promise->now->value),
                    $promise->now->value > 0.0 ? 'low' : 'high',
                    self::small($p['promise']),
                );
        }
        if ([] !== $reasons) {
            return [Verdict::WearingOff, $reasons];
        }
        $seen = \sprintf(
            'With %s newer records a loss of %s would be seen four times in five',
            number_format($rows),
            $figure->said($visible),
        );
        if (null !== $matters && $visible > $matters) {
            return [Verdict::TooFew, [\sprintf('%s; %s is what matters.', $seen, $figure->said($matters))]];
        }

        return [Verdict::Holds, [$seen.'; none was.']];
    }

    private static function small(float $p): string
    {
        return $p < 0.001 ? 'under 0.001' : \sprintf('%.'.($p < 0.01 ? 3 : 2).'f', $p);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'verdict' => $this->verdict->value,
            'reasons' => $this->reasons,
            'figures' => array_map(static fn (Line $l): array => $l->toArray(), $this->lines),
            'promise' => $this->promise?->toArray(),
            'visible' => $this->visible,
            'matters' => $this->matters,
            'rows_then' => $this->rowsThen,
            'rows_now' => $this->rowsNow,
        ];
    }
}
