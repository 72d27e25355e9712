<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Question\Ground;
use App\Table\TableColumn;
use App\Trial\Trial;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;

/** Draws picked records of a trial on two columns, over all the others. */
final readonly class Pictures
{
    private const PICKED = 800;
    private const OTHERS = 1500;
    /** Values of a category that have a place of their own. */
    private const LEVELS = 12;

    public function __construct(private Ground $ground, private Picks $picks, private Judgments $judgments)
    {
    }

    /** @param string $x name of a column; '' = what the trial leans on most */
    public function of(Trial $trial, Pick $pick, string $x, string $y): PictureView
    {
        $picked = $this->picks->of($trial, $pick);
        $study = $trial->study();
        $columns = array_values(array_map(static fn (TableColumn $c): string => $c->name(), array_filter(
            $this->ground->table($study)->columns(),
            static fn (TableColumn $c): bool => !\in_array($c->kind(), [Kind::Text, Kind::Identifier], true),
        )));
        foreach (['x' => $x, 'y' => $y] as $field => $name) {
            if ('' !== $name && !\in_array($name, $columns, true)) {
                throw Problem::invalid(\sprintf('Records cannot be drawn on "%s".', $name), $field);
            }
        }
        $usual = $this->telling($trial, $columns);
        $x = '' === $x ? $usual[0] ?? '' : $x;
        $y = '' === $y ? array_values(array_diff($usual, [$x]))[0] ?? $x : $y;
        if ('' === $x) {
            throw new Problem(409, 'This table has no column to draw records on.');
        }
        [$table, , $rows] = $this->ground->open($study, [$x, $y]);
        [$across, $xs] = self::axis($x, $table->column($x));
        [$up, $ys] = self::axis($y, $table->column($y));
        $own = $others = [];
        $missing = 0;
        foreach (array_keys($picked) as $i) {
            if (null === $xs[$i] || null === $ys[$i]) {
                ++$missing;
            } elseif (\count($own) < self::PICKED) {
                $own[] = [$xs[$i], $ys[$i], $rows[$i] + 1];
            }
        }
        $rest = array_values(array_filter(array_keys($rows), static fn (int $i): bool => !isset($picked[$i])));
        $step = max(1.0, \count($rest) / self::OTHERS);
        for ($k = 0.0; $k < \count($rest); $k += $step) {
            $i = $rest[(int) $k];
            if (null !== $xs[$i] && null !== $ys[$i]) {
                $others[] = [$xs[$i], $ys[$i]];
            }
        }

        return new PictureView($across, $up, $columns, $own, $others, \count($picked), $missing, \count($rest));
    }

    /**
     * @param list<string> $columns
     *
     * @return list<string> those that the trial leans on first
     */
    private function telling(Trial $trial, array $columns): array
    {
        $leans = array_map(
            static fn (Section\LostView $l): string => $l->column,
            Section\LeaningSection::of($trial, $this->judgments->model($trial))->columns ?? [],
        );

        return array_values(array_unique([
            ...array_intersect($leans, $columns),
            ...array_intersect($trial->inputs(), $columns),
            ...$columns,
        ]));
    }

    /** @return array{AxisView, list<?float>} per row its place; null = missing */
    private static function axis(string $name, Column $column): array
    {
        if ($column instanceof NumberColumn) {
            return [
                new AxisView($name, 'number', []),
                array_map(static fn (float $v): ?float => is_finite($v) ? $v : null, $column->values),
            ];
        }
        if ($column instanceof DateColumn) {
            return [
                new AxisView($name, 'date', []),
                array_map(static fn (int $s): ?float => DateColumn::MISSING === $s ? null : $s / DateColumn::DAY, $column->seconds),
            ];
        }
        $counts = $places = $out = [];
        for ($row = 0; $row < $column->count(); ++$row) {
            $text = $column->text($row);
            $out[] = $text;
            if (null !== $text) {
                $counts[$text] = ($counts[$text] ?? 0) + 1;
            }
        }
        arsort($counts);
        $labels = array_map(strval(...), \array_slice(array_keys($counts), 0, self::LEVELS));
        sort($labels, \SORT_NATURAL);
        $places = array_flip($labels);
        $more = \count($counts) > self::LEVELS ? \count($labels) : null;

        return [
            new AxisView($name, 'category', null === $more ? $labels : [...$labels, 'other']),
            array_map(static fn (?string $t): ?float => null === $t ? null : (float) ($places[$t] ?? $more ?? 0), $out),
        ];
    }
}
