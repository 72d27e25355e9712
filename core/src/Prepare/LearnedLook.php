<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Measure\Interval;

/** What a step learned of the training rows, as a short ledger: loadings of components, or what words tell about the target. */
final readonly class LearnedLook
{
    private const COMPONENTS = 6;

    /**
     * @param list<string>                                   $head one heading per column
     * @param list<array{name: string, cells: list<string>}> $rows the cells after the name, written as they are read
     */
    private function __construct(public string $caption, public array $head, public array $rows)
    {
    }

    /** Null for steps whose sentence says it all. */
    public static function of(FittedStep $step, Lesson $lesson): ?self
    {
        return match (true) {
            $step instanceof FittedComponents => self::loadings($step),
            $step instanceof FittedTerms && null !== $lesson->event => self::words($step, $lesson, $lesson->event),
            default => null,
        };
    }

    private static function loadings(FittedComponents $step): self
    {
        $shown = \array_slice($step->vectors, 0, self::COMPONENTS);
        $rows = [['name' => 'Share of the variation', 'cells' => array_map(static fn (int $i) => Words::share($step->shares[$i]), array_keys($shown))]];
        foreach ($step->columns as $j => $name) {
            $rows[] = ['name' => $name, 'cells' => array_map(static fn (array $weights) => \sprintf('%.2f', $weights[$j]), $shown)];
        }
        $left = \count($step->vectors) - \count($shown);

        return new self('Weight of each column in '.($left > 0 ? \sprintf('the first %d of %d', \count($shown), \count($step->vectors)) : 'each'), ['Column', ...array_map(static fn (int $i) => $step->prefix.'_'.($i + 1), array_keys($shown))], $rows);
    }

    /**
     * The share of the event where the word stands and where it does not; the clearest first, by the two-sample statistic of shares.
     *
     * @param list<float> $event
     */
    private static function words(FittedTerms $step, Lesson $lesson, array $event): self
    {
        $table = $step->apply($lesson->table);
        $rows = [];
        foreach ($step->made() as $term => $name) {
            $column = $table->column($name);
            $with = $without = [0, 0.0];
            foreach ($lesson->rows as $row) {
                if (is_nan($event[$row]) || $column->isMissing($row)) {
                    continue;
                }
                if (\in_array($column->text($row), ['no', '0'], true)) {
                    ++$without[0];
                    $without[1] += $event[$row];
                } else {
                    ++$with[0];
                    $with[1] += $event[$row];
                }
            }
            if (0 === $with[0] || 0 === $without[0]) {
                continue;
            }
            $share = ($with[1] + $without[1]) / ($with[0] + $without[0]);
            $error = sqrt(max(1e-12, $share * (1 - $share)) * (1 / $with[0] + 1 / $without[0]));
            $rows[] = ['z' => abs($with[1] / $with[0] - $without[1] / $without[0]) / $error, 'row' => ['name' => (string) $term, 'cells' => [number_format($with[0]), self::said($with), self::said($without)]]];
        }
        usort($rows, static fn (array $a, array $b) => $b['z'] <=> $a['z'] ?: strcmp($a['row']['name'], $b['row']['name']));

        return new self('What the words tell about the target, in training rows', ['Word', 'texts', 'share with it', 'without'], array_column($rows, 'row'));
    }

    /** @param array{int, float} $of how many, and how many of them with the event */
    private static function said(array $of): string
    {
        $share = Interval::wilson($of[1], $of[0]);

        return \sprintf('%.0f%% (%.0f to %.0f)', 100 * (float) $share->value, 100 * (float) $share->low, 100 * (float) $share->high);
    }
}
