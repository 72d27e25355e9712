<?php

declare(strict_types=1);

namespace App\Register;

use App\Question\OpenCells;
use App\Source\FitsView;
use App\Table\TableColumn;
use Dokimos\Core\Format\KindFits;
use Dokimos\Core\Math\Holm;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Profile\Terms;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\TextColumn;

/** Lists a column's frequent values, extreme records and words, with the event's share on rows that are not sealed. */
final readonly class ColumnMore
{
    private const VALUES = 40;
    private const EXTREMES = 8;
    /** Records that are looked at, at most: what answers a page has 512 MB. */
    private const LOOKED_AT = 500_000;
    private const TERMS = 40;
    /** Terms in fewer texts say nothing surely. */
    private const FEWEST_TEXTS = 5;

    /** @param int $most records that are looked at */
    public function __construct(private OpenCells $reader, private Outcomes $outcomes, private int $most = self::LOOKED_AT)
    {
    }

    public function of(TableColumn $column): ColumnMoreView
    {
        [$part, $numbers] = $this->reader->sample($column->table(), [$column->name()], $this->most);
        $cells = $part->column($column->name());
        $event = $this->outcomes->of($column);
        $event = null === $event ? null : array_map(static fn (int $row): float => $event[$row], $numbers);
        [$lowest, $highest] = $this->extremes($cells, $numbers);

        return new ColumnMoreView(
            $this->values($cells, $event),
            $lowest,
            $highest,
            $cells instanceof TextColumn && Kind::Text === $cells->kind() ? $this->terms($cells, $event) : [],
            new FitsView(...KindFits::of($cells, $column->misfitCount())),
            $part->rows === $column->table()->rows() ? null : $part->rows,
        );
    }

    /**
     * The most frequent, of equal ones those whose bytes come first: a column of keys has hundreds of thousands that occur once.
     *
     * @param array<array-key, int> $counts by value
     *
     * @return array<array-key, int>
     */
    private static function frequent(array $counts): array
    {
        $many = array_values($counts);
        rsort($many);
        $least = $many[self::VALUES - 1] ?? 0;
        $more = array_filter($counts, static fn (int $count): bool => $count > $least);
        uksort($more, static fn (int|string $a, int|string $b): int => $more[$b] <=> $more[$a] ?: strcmp((string) $a, (string) $b));
        $alike = array_map(strval(...), array_keys($counts, $least, true));
        sort($alike, \SORT_STRING);

        return $more + array_fill_keys(\array_slice($alike, 0, self::VALUES - \count($more)), $least);
    }

    /**
     * @param ?list<float> $event
     *
     * @return list<DistributionPart>
     */
    private function values(Column $cells, ?array $event): array
    {
        $counts = $judged = $events = [];
        for ($row = 0, $rows = $cells->count(); $row < $rows; ++$row) {
            $text = $cells->text($row);
            if (null === $text) {
                continue;
            }
            $counts[$text] = ($counts[$text] ?? 0) + 1;
            if (null !== $event && !is_nan($event[$row])) {
                $judged[$text] = ($judged[$text] ?? 0) + 1;
                $events[$text] = ($events[$text] ?? 0) + ($event[$row] > 0.5 ? 1 : 0);
            }
        }
        $out = [];
        foreach (self::frequent($counts) as $value => $count) {
            $share = Interval::wilson($events[$value] ?? 0, $judged[$value] ?? 0);
            $out[] = new DistributionPart(
                (string) $value,
                null,
                null,
                $count,
                $judged[$value] ?? 0,
                null === $event ? null : $events[$value] ?? 0,
                $share->value,
                $share->low,
                $share->high,
            );
        }

        return $out;
    }

    /**
     * @param list<int> $numbers of the records
     *
     * @return array{list<ExtremeView>, list<ExtremeView>}
     */
    private function extremes(Column $cells, array $numbers): array
    {
        $keys = [];
        $summary = $cells instanceof NumberColumn ? NumberSummary::of($cells->values) : null;
        for ($row = 0, $rows = $cells->count(); $row < $rows; ++$row) {
            if (!$cells->isMissing($row)) {
                $keys[$row] = match (true) {
                    $cells instanceof NumberColumn => $cells->values[$row],
                    $cells instanceof DateColumn => (float) $cells->seconds[$row],
                    default => (float) mb_strlen((string) $cells->text($row)),
                };
            }
        }
        if ($cells->kind()->isCoded()) {
            return [[], []];
        }
        asort($keys);
        $view = static fn (int $row): ExtremeView => new ExtremeView(
            $numbers[$row] + 1,
            mb_strimwidth((string) $cells->text($row), 0, 120, '…'),
            $summary?->robustZ($keys[$row]),
        );
        $order = array_keys($keys);

        return [
            array_map($view, \array_slice($order, 0, self::EXTREMES)),
            array_map($view, array_reverse(\array_slice($order, -self::EXTREMES))),
        ];
    }

    /**
     * @param ?list<float> $event
     *
     * @return list<TermView>
     */
    private function terms(TextColumn $cells, ?array $event): array
    {
        $terms = Terms::of($cells->cells);
        $texts = array_filter($terms->texts, static fn (int $n) => $n >= self::FEWEST_TEXTS);
        if (null === $event) {
            uksort($texts, static fn (int|string $a, int|string $b) => $texts[$b] <=> $texts[$a] ?: strcmp((string) $a, (string) $b));

            return array_map(
                static fn (int|string $t) => new TermView((string) $t, $texts[$t], 0, null, null, null, null),
                \array_slice(array_keys($texts), 0, self::TERMS),
            );
        }
        $classes = array_map(static fn (float $e) => is_nan($e) ? -1 : (int) $e, $event);
        $telling = array_values(array_filter($terms->tellingOf($classes, \PHP_INT_MAX), static fn (array $t) => isset($texts[$t['term']])));
        $p = Holm::adjusted(array_column($telling, 'p'));
        $out = [];
        foreach (\array_slice($telling, 0, self::TERMS) as $i => $term) {
            $known = array_filter($terms->rowsWith($term['term']), static fn (int $row) => $classes[$row] >= 0);
            $share = Interval::wilson(\count(array_filter($known, static fn (int $row) => 1 === $classes[$row])), \count($known));
            $out[] = new TermView($term['term'], $texts[$term['term']], \count($known), $share->value, $share->low, $share->high, $p[$i]);
        }

        return $out;
    }
}
