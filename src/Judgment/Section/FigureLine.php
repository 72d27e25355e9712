<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\FigureView;
use App\Trial\Trial;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Measure\Interval;

/** A figure of the validation rows beside what doing nothing scores and, once opened, the sealed rows. */
final readonly class FigureLine
{
    /** @param string $says what the figure means to somebody who decides, in a sentence */
    public function __construct(
        public FigureView $figure,
        public string $says,
        public Interval $interval,
        public ?float $baseline,
        public ?float $sealed,
    ) {
    }

    /** @return list<self> those that the page of a trial gives, in the order of the registry */
    public static function all(Trial $trial, string $task): array
    {
        $figures = $trial->figures();
        $baseline = \is_array($figures['baseline'] ?? null) ? $figures['baseline'] : [];
        $lines = [];
        foreach (Figures::of($task) as $figure) {
            if ($figure->judged) {
                $without = $baseline[$figure->key] ?? null;
                $lines[] = new self(
                    FigureView::of($figure),
                    $figure->says,
                    self::interval($figures[$figure->key] ?? null),
                    is_numeric($without) ? (float) $without : null,
                    self::interval($trial->sealedFigures()[$figure->key] ?? null)->value,
                );
            }
        }

        return $lines;
    }

    /** Trials of before kept some figures without their interval. */
    private static function interval(mixed $kept): Interval
    {
        /** @var array{value?: float|int|null, low?: float|int|null, high?: float|int|null, statistic?: float|int} $of */
        $of = \is_array($kept) ? $kept : ['value' => is_numeric($kept) ? (float) $kept : null];
        $float = static fn (float|int|null $v): ?float => null === $v ? null : (float) $v;

        return new Interval($float($of['value'] ?? $of['statistic'] ?? null), $float($of['low'] ?? null), $float($of['high'] ?? null));
    }
}
