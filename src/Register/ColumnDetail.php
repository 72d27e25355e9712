<?php

declare(strict_types=1);

namespace App\Register;

use App\Question\OpenCells;
use App\Question\Questions;
use App\Table\BinView;
use App\Table\ColumnView;
use App\Table\FrequentValueView;
use App\Table\TableColumn;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Profile\ScaledBins;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/** Lays the event's share over a column's distribution; sealed rows are counted but their outcome is not looked at. */
final readonly class ColumnDetail
{
    /** Records that bins of another scale are counted in, at most. */
    private const LOOKED_AT = 1_000_000;

    /** @param int $most records that are looked at for other bins than the profile has */
    public function __construct(
        private OpenCells $reader,
        private Outcomes $outcomes,
        private Questions $questions,
        private int $most = self::LOOKED_AT,
    ) {
    }

    /**
     * @param ?int $bins how many bins of a number; as the profile has them when null
     * @param bool $log  bins of equal width on a logarithmic scale
     */
    public function of(TableColumn $column, ?int $bins = null, bool $log = false): ColumnDetailView
    {
        $study = $column->study();
        $kind = $column->kind();
        $event = $this->outcomes->of($column);
        $view = ColumnView::of($column);
        if (Kind::Number === $kind && (null !== $bins || $log)) {
            return $this->byScale($column, $view, $bins ?? 24, $log, $event);
        }
        $isOrdered = Kind::Number === $kind || Kind::Date === $kind;
        // Without outcomes the profile says it all: a key of millions is not read in vain.
        $cells = null === $event ? null : $this->reader->column($column);
        $parts = [] !== $view->bins && $isOrdered
            ? $this->byBin(Kind::Date === $kind, $cells, $view->bins, $event)
            : $this->byValue($cells, $view->top, $event);
        $headline = null === $event ? null : Headline::of(
            $column->name(),
            (string) $this->questions->of($study)->event(),
            $parts,
            $isOrdered,
        );
        if (!$isOrdered && !$kind->isCoded() && ($view->top[0]->count ?? 0) <= max(2, 0.005 * $column->table()->rows())) {
            // Texts that hardly repeat have no frequent values to show, but lengths.
            $parts = array_map(
                static fn (BinView $b) => self::part(NumberColumn::write($b->low), $b->low, $b->high, $b->count, 0, null),
                $view->bins,
            );
            $headline = 'How long the texts are, in letters';
        }

        return $this->view($column, $view, $parts, $event, $headline);
    }

    /**
     * Bins of another number or scale than the profile has; of a large table in some of its records.
     *
     * @param ?list<float> $event
     */
    private function byScale(TableColumn $column, ColumnView $view, int $bins, bool $log, ?array $event): ColumnDetailView
    {
        [$part, $numbers] = $this->reader->sample($column->table(), [$column->name()], $this->most);
        $cells = $part->column($column->name());
        \assert($cells instanceof NumberColumn);
        $event = null === $event ? null : array_map(static fn (int $row): float => $event[$row], $numbers);

        return $this->view(
            $column,
            $view,
            $this->byEdges($cells, ScaledBins::edges($cells->values, $bins, $log), $event),
            $event,
            $part->rows === $column->table()->rows() ? null : \sprintf(
                'Counted in %s of %s records, evenly spread',
                number_format($part->rows),
                number_format($column->table()->rows()),
            ),
        );
    }

    /**
     * @param list<DistributionPart> $parts
     * @param ?list<float>           $event
     */
    private function view(TableColumn $column, ColumnView $view, array $parts, ?array $event, ?string $headline): ColumnDetailView
    {
        $study = $column->study();
        $judged = null === $event ? [] : array_filter($event, static fn (float $e) => !is_nan($e));
        $summary = $column->profile()['summary'] ?? [];

        return new ColumnDetailView(
            $view,
            \is_array($summary) ? $summary : [],
            $parts,
            $headline,
            [] === $judged ? null : array_sum($judged) / \count($judged),
            null === $event ? null : $this->questions->of($study)->event(),
            \count($judged),
            \array_slice($column->misfits(), 0, 20),
        );
    }

    /**
     * @param list<float>  $edges ascending; a bin holds its lower edge
     * @param ?list<float> $event
     *
     * @return list<DistributionPart>
     */
    private function byEdges(NumberColumn $cells, array $edges, ?array $event): array
    {
        $last = \count($edges) - 2;
        $counts = $judged = $events = array_fill(0, max(0, $last + 1), 0);
        foreach ($cells->values as $row => $v) {
            if (is_nan($v) || $last < 0) {
                continue;
            }
            $b = 0;
            while ($b < $last && $v >= $edges[$b + 1]) {
                ++$b;
            }
            ++$counts[$b];
            if (null !== $event && !is_nan($event[$row])) {
                ++$judged[$b];
                $events[$b] += $event[$row] > 0.5 ? 1 : 0;
            }
        }
        $parts = [];
        foreach ($counts as $b => $count) {
            $parts[] = self::part(
                NumberColumn::write((float) \sprintf('%.4g', $edges[$b])),
                $edges[$b],
                $edges[$b + 1],
                $count,
                $judged[$b],
                null === $event ? null : $events[$b],
            );
        }

        return $parts;
    }

    /**
     * @param list<BinView> $bins
     * @param ?list<float>  $event
     *
     * @return list<DistributionPart>
     */
    private function byBin(bool $areDates, ?Column $cells, array $bins, ?array $event): array
    {
        $width = max(1e-300, $bins[0]->high - $bins[0]->low);
        $last = \count($bins) - 1;
        $judged = $events = array_fill(0, $last + 1, 0);
        if (null !== $event && ($cells instanceof NumberColumn || $cells instanceof DateColumn)) {
            foreach ($cells instanceof NumberColumn ? $cells->values : $cells->seconds as $row => $v) {
                if ($cells->isMissing($row) || is_nan($event[$row])) {
                    continue;
                }
                $b = max(0, min($last, (int) floor(($v - $bins[0]->low) / $width)));
                ++$judged[$b];
                $events[$b] += $event[$row] > 0.5 ? 1 : 0;
            }
        }
        $parts = [];
        foreach ($bins as $b => $bin) {
            $label = $areDates ? DateColumn::write((int) $bin->low) : NumberColumn::write((float) $bin->low);
            $parts[] = self::part($label, $bin->low, $bin->high, $bin->count, $judged[$b], null === $event ? null : $events[$b]);
        }

        return $parts;
    }

    /**
     * @param list<FrequentValueView> $top
     * @param ?list<float>            $event
     *
     * @return list<DistributionPart>
     */
    private function byValue(?Column $cells, array $top, ?array $event): array
    {
        $judged = $events = [];
        if (null !== $event && null !== $cells) {
            foreach ($event as $row => $e) {
                $text = $cells->text($row);
                if (null !== $text && !is_nan($e)) {
                    $judged[$text] = ($judged[$text] ?? 0) + 1;
                    $events[$text] = ($events[$text] ?? 0) + ($e > 0.5 ? 1 : 0);
                }
            }
        }

        return array_map(
            static fn (FrequentValueView $t) => self::part(
                $t->value,
                null,
                null,
                $t->count,
                $judged[$t->value] ?? 0,
                null === $event ? null : $events[$t->value] ?? 0,
            ),
            $top,
        );
    }

    private static function part(string $label, ?float $low, ?float $high, int $count, int $judged, ?int $events): DistributionPart
    {
        $share = Interval::wilson($events ?? 0, null === $events ? 0 : $judged);

        return new DistributionPart($label, $low, $high, $count, $judged, $events, $share->value, $share->low, $share->high);
    }
}
