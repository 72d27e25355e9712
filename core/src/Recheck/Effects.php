<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Math\Holm;
use Dokimos\Core\Random;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;

/**
 * What moved in the columns that a model asks for, ordered by what it does to its answers: how much they are as they are because a column
 * is
 * as it is now, and not as it was. For that each record is answered once more with a value of the column drawn from training. It says what
 * the model does with the change, not whether that is right.
 */
final class Effects
{
    private const MOST = 2000;

    /**
     * @param Table $then records of training, the columns that the model asks for
     * @param Table $now  newer records, as select() gives them
     *
     * @return list<array{column: string, drift: array<string, mixed>, holm: ?float, points: float, moved: float}> points: the mean change
     *                                                                                                             of the answer (of the
     *                                                                                                             event's chance in points
     *                                                                                                             of 100, of several classes
     *                                                                                                             nothing); moved: its mean
     *                                                                                                             size
     */
    public static function of(ScoringModel $model, Table $then, Table $now, int $seed = 2026): array
    {
        $p = $out = [];
        $some = $now->rows > self::MOST ? $now->take(self::evenly($now->rows)) : $now;
        $as = $model->answers($some);
        foreach ($model->asked as $name => $kind) {
            $name = (string) $name;
            $drift = ColumnDrift::of($then->column($name), $now->column($name));
            if (null !== $drift->p) {
                $p[$name] = $drift->p;
            }
            [$points, $moved] = self::changed(
                $as,
                $model->answers($some->with($name, self::drawn($then->column($name), $some, $name, $seed))),
            );
            $out[] = [
                'column' => $name,
                'drift' => (Kind::Date === $kind ? ['kind' => 'date'] : []) + $drift->toArray(),
                'holm' => null,
                'points' => $points,
                'moved' => $moved,
            ];
        }
        $holm = Holm::adjusted($p);
        foreach ($out as $i => $line) {
            $out[$i]['holm'] = $holm[$line['column']] ?? null;
        }
        usort($out, static fn (array $a, array $b): int => abs($b['points']) <=> abs($a['points']) ?: strcmp($a['column'], $b['column']));

        return $out;
    }

    /** @return list<int> */
    private static function evenly(int $rows): array
    {
        return array_map(static fn (int $i): int => intdiv($i * $rows, self::MOST), range(0, self::MOST - 1));
    }

    /** Values of training in place of those of today; a column that moved in nothing gives the same answers on average. */
    private static function drawn(Column $then, Table $now, string $name, int $seed): Column
    {
        $random = Random::stream($seed, 'drift of '.$name);
        $rows = [];
        $many = $then->count();
        for ($row = 0; $row < $now->rows; ++$row) {
            $rows[] = $random->getInt(0, max(0, $many - 1));
        }
        $taken = 0 === $many ? $now->column($name) : $then->take($rows);

        return $taken instanceof CodedColumn || $taken->kind() === $now->column($name)->kind() ? $taken : $now->column($name);
    }

    /** @return array{float, float} */
    private static function changed(Answers $is, Answers $was): array
    {
        $sum = $size = 0.0;
        $n = 0;
        for ($row = 0, $rows = $is->rows(); $row < $rows; ++$row) {
            if (!$is->isKnown($row) || !$was->isKnown($row)) {
                continue;
            }
            ++$n;
            if ($is->width > 1) {
                // Of several classes half of what chances differ by is what moves from one to another.
                $size += 0.5 * array_sum(array_map(static fn (float $a, float $b): float => abs($a - $b), $is->of($row), $was->of($row)));
                continue;
            }
            $by = $is->first($row) - $was->first($row);
            $sum += $by;
            $size += abs($by);
        }

        return [$is->width > 1 ? $size / max(1, $n) : $sum / max(1, $n), $size / max(1, $n)];
    }
}
