<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Decision\CurvePointView;
use App\Decision\DecisionView;
use App\Judgment\Section\ClassSection;
use App\Judgment\Section\EventSection;
use App\Judgment\Section\NumberSection;
use App\Reasons\ColumnEffectView;
use App\Reasons\MatterLine;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Trial\FigureView;
use App\Trial\TrialView;
use Dokimos\Core\Dossier\Block;
use Dokimos\Core\Dossier\Drawing;

/** The pictures of a dossier, drawn from the documents that the screens show; each says what it shows. */
final class Pictures
{
    /** Points of a curve of returns. */
    private const POINTS = 60;

    /** @return list<Block> which columns lack most; none where no cell is missing */
    public static function missing(DataTable $table): array
    {
        $shares = [];
        foreach ($table->columns() as $column) {
            $shares[$column->name()] = ($column->profile()['missing'] ?? 0) / max(1, $table->rows());
        }
        arsort($shares);
        $some = \array_slice(array_filter($shares, static fn (float $s): bool => $s > 0.0), 0, 12);

        return [] === $some ? [] : [Block::picture(
            \sprintf('Missing cells, of 100, of the columns that lack most; %d of %d columns lack none.', \count(array_filter(
                $table->columns(),
                static fn (TableColumn $c): bool => 0 === ($c->profile()['missing'] ?? 0),
            )), \count($table->columns())),
            Drawing::intervals(
                array_map(
                    static fn (string $name, float $s): array => [$name, 100 * $s, null, null],
                    array_map(strval(...), array_keys($some)),
                    $some,
                ),
                'missing, of 100',
                0.0,
            ),
        )];
    }

    /** @param list<TrialView> $trials */
    public static function trials(FigureView $figure, array $trials, ?float $baseline): Block
    {
        return Block::picture(
            \sprintf('%s of each trial with its interval of 95%%; the dashed line is doing nothing.', $figure->name),
            Drawing::intervals(
                array_map(static fn (TrialView $t): array => [$t->number.' '.$t->title, $t->value, $t->low, $t->high], $trials),
                $figure->name,
                $baseline,
            ),
        );
    }

    /** Shares of events reached when the highest chances are acted on first. */
    public static function caught(EventSection $event): Block
    {
        $points = [[0.0, 0.0]];
        $rows = 0;
        foreach ($event->tenths as $tenth) {
            $rows += $tenth->rows;
            if (null !== $tenth->caught) {
                $points[] = [$rows / max(1, $event->rows - $event->unanswered), $tenth->caught];
            }
        }
        $third = $event->tenths[2]->caught ?? null;

        return Block::picture(
            \sprintf(
                'Of all events, %s are among the 30 of 100 records with the highest chances; at random it would be 30%%.',
                null === $third ? '–' : Said::share($third),
            ),
            Drawing::lines(
                ['the model' => $points, 'at random' => [[0.0, 0.0], [1.0, 1.0]]],
                [0.0, 1.0],
                [0.0, 1.0],
                'share of records acted on, highest chance first',
                '',
            ),
        );
    }

    /** @return list<Block> how good the answers are, for the eye */
    public static function judged(EventSection|NumberSection|ClassSection $section): array
    {
        return match (true) {
            $section instanceof EventSection => [
                self::caught($section),
                ...self::roc($section),
                ...self::calibration($section),
                ...self::chances($section),
            ],
            $section instanceof NumberSection => self::tenths($section),
            default => [Block::picture(
                'Of the records of each class, how many of 100 are said to be of it, with intervals of 95%.',
                Drawing::intervals(array_map(static fn ($c): array => [
                    $c->name,
                    null === $c->recall->value ? null : 100 * $c->recall->value,
                    null === $c->recall->low ? null : 100 * $c->recall->low,
                    null === $c->recall->high ? null : 100 * $c->recall->high,
                ], \array_slice($section->classes, 0, 20)), 'found, of 100 of the class'),
            )],
        };
    }

    /** @return list<Block> */
    private static function roc(EventSection $event): array
    {
        $points = [];
        foreach ($event->roc as [$vain, $caught]) {
            if (null !== $vain && null !== $caught) {
                $points[] = [$vain, $caught];
            }
        }

        return [] === $points ? [] : [Block::picture(
            'Share of events caught, by the share of others called in vain, over all cut-offs; a coin follows the dotted line.',
            Drawing::lines(['the model' => $points], [0.0, 1.0], [0.0, 1.0], 'called in vain', '', true),
        )];
    }

    /** @return list<Block> */
    private static function calibration(EventSection $event): array
    {
        $bins = array_map(static fn ($c): array => [$c->mean, $c->rate], $event->calibration);

        return [] === $bins ? [] : [Block::picture(
            'Chances given, beside what came: on the dotted line they hold.',
            Drawing::lines(['what came' => $bins], [0.0, $top = max(0.1, ...array_merge(...$bins))], [0.0, $top], 'chance given', '', true),
        )];
    }

    /** @return list<Block> */
    private static function chances(EventSection $event): array
    {
        $bins = $event->histogram;
        if (null === $bins || [] === $bins->events) {
            return [];
        }
        $share = static function (array $counts): array {
            $all = max(1, array_sum($counts));

            return array_map(
                static fn (int $k, int $n): array => [($k + 0.5) / \count($counts), $n / $all],
                array_keys(array_values($counts)),
                array_values($counts),
            );
        };
        [$with, $without] = [$share($bins->events), $share($bins->others)];

        return [Block::picture(
            'Where the chances of records with the event lie, and of those without: the further apart, the better the model tells them.',
            Drawing::lines(
                ['with the event' => $with, 'without' => $without],
                [0.0, 1.0],
                [0.0, max(0.01, ...array_column([...$with, ...$without], 1))],
                'chance given',
                'share of each',
            ),
        )];
    }

    /** @return list<Block> */
    private static function tenths(NumberSection $section): array
    {
        if ([] === $section->tenths) {
            return [];
        }
        $of = static fn (string $what): array => array_map(static fn ($t): array => [$t->predicted, $t->$what], $section->tenths);
        $all = array_merge(...array_map(static fn ($t): array => [$t->predicted, $t->low, $t->high], $section->tenths));
        $ends = [min($all), max($all)];

        return [Block::picture(
            'What came, by what was said, in tenths: the middle and where most lie; on the dotted line they agree.',
            Drawing::lines(['middle' => $of('middle'), 'low' => $of('low'), 'high' => $of('high')], $ends, $ends, 'said', '', true),
        )];
    }

    /**
     * What the ranking figure loses when a column is shuffled.
     *
     * @param list<MatterLine> $lines
     */
    public static function matters(array $lines): Block
    {
        return Block::picture(
            'What the ranking figure loses when a column is shuffled, with its interval.',
            Drawing::intervals(
                array_map(static fn (MatterLine $c): array => [$c->column, $c->lost, $c->low, $c->high], $lines),
                'lost when shuffled',
                0.0,
            ),
        );
    }

    /** @return list<Block> how answers bend with a column */
    public static function effect(ColumnEffectView $view): array
    {
        if ('category' === $view->kind) {
            return [Block::picture(Said::ended($view->says), Drawing::intervals(array_map(
                static fn (string $level, int $i): array => [
                    $level,
                    $view->mean[$i] ?? null,
                    $view->low[$i] ?? null,
                    $view->high[$i] ?? null,
                ],
                \array_slice($view->levels, 0, 20),
                array_keys(\array_slice($view->levels, 0, 20)),
            ), 'mean answer, by '.$view->column))];
        }
        $of = static function (array $ys) use ($view): array {
            $points = [];
            foreach ($view->xs as $i => $x) {
                if (null !== ($ys[$i] ?? null)) {
                    $points[] = [$x, $ys[$i]];
                }
            }

            return $points;
        };
        $lines = ['mean answer' => $of($view->mean), 'low, 95%' => $of($view->low), 'high, 95%' => $of($view->high)];
        $ys = array_column(array_merge(...array_values($lines)), 1);

        return [] === $ys || [] === $view->xs ? [] : [Block::picture(
            Said::ended($view->says),
            Drawing::lines(
                $lines,
                [min($view->xs), max($view->xs)],
                [min($ys), max($ys)],
                $view->column.('date' === $view->kind ? ', days since 1970' : ''),
                '',
            ),
        )];
    }

    /** @return list<Block> what the best so many records return together */
    public static function returns(DecisionView $view): array
    {
        if (\count($view->curve) < 2) {
            return [];
        }
        $step = max(1, intdiv(\count($view->curve), self::POINTS));
        $points = array_map(
            static fn (CurvePointView $p): array => [(float) $p->actions, $p->return],
            array_values(array_filter($view->curve, static fn (int $i): bool => 0 === $i % $step, \ARRAY_FILTER_USE_KEY)),
        );
        $ys = array_column($points, 1);

        return [Block::picture(
            \sprintf(
                '"%s": what acting on the best so many records is expected to return, in %s; with the %s acted on it is %s.',
                $view->name,
                $view->terms->unit,
                number_format($view->acted->actions),
                number_format($view->acted->return),
            ),
            Drawing::lines(
                ['expected return' => $points],
                [0.0, max(1.0, ...array_column($points, 0))],
                [min(0.0, ...$ys), max(0.0, ...$ys)],
                'records acted on',
                '',
            ),
        )];
    }

    /**
     * @param array<string, mixed> $told of a recheck
     *
     * @return list<Block> its figure along time, and chances then and now
     */
    public static function rechecked(array $told): array
    {
        $out = [];
        /** @var list<array{label: string, figure: array{value: ?float, low: ?float, high: ?float}}> $periods */
        $periods = \is_array($told['periods'] ?? null) ? $told['periods'] : [];
        /** @var list<array{then: array{value: ?float}}> $figures */
        $figures = \is_array($told['figures'] ?? null) ? $told['figures'] : [];
        $name = Said::word($told['figure'] ?? '');
        if ([] !== $periods) {
            $out[] = Block::picture(\sprintf(
                '%s along time, with intervals of 95%%; the dashed line is the figure then.',
                $name,
            ), Drawing::intervals(
                array_map(
                    static fn (array $p): array => [$p['label'], $p['figure']['value'], $p['figure']['low'], $p['figure']['high']],
                    \array_slice($periods, 0, 20),
                ),
                $name,
                $figures[0]['then']['value'] ?? null,
            ));
        }
        /**
         * @var array{
         *     then?: list<array{chance: float, came: array{value: ?float}}>, now?: list<array{chance: float, came: array{value: ?float}}>,
         * } $held
         */
        $held = \is_array($told['calibration'] ?? null) ? $told['calibration'] : [];
        $lines = [];
        foreach (['now', 'then'] as $when) {
            foreach ($held[$when] ?? [] as $group) {
                $lines[$when][] = [$group['chance'], $group['came']['value'] ?? 0.0];
            }
        }
        if ([] !== $lines) {
            $top = max(0.1, ...array_merge(...array_merge(...array_values($lines))));
            $out[] = Block::picture(
                'Chances given, beside what came, on the newer records and when it was examined.',
                Drawing::lines($lines, [0.0, $top], [0.0, $top], 'chance given', '', true),
            );
        }

        return $out;
    }
}
