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
    /**
     * @param string    $says   what the figure means to somebody who decides, in a sentence
     * @param ?Interval $sealed of the sealed rows, once opened
     * @param ?bool     $agrees whether that is what was expected, within the error of both
     */
    public function __construct(
        public FigureView $figure,
        public string $says,
        public Interval $interval,
        public ?float $baseline,
        public ?Interval $sealed,
        public ?bool $agrees,
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
                $expected = self::interval($figures[$figure->key] ?? null);
                $sealed = self::interval($trial->sealedFigures()[$figure->key] ?? null);
                $apart = $sealed->less($expected);
                $lines[] = new self(
                    FigureView::of($figure),
                    $figure->says,
                    $expected,
                    is_numeric($without) ? (float) $without : null,
                    null === $sealed->value ? null : $sealed,
                    null === $apart ? null : $apart->low <= 0.0 && $apart->high >= 0.0,
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
