<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Learn\Learners;
use Dokimos\Core\Task\Task;

/** A line of the Standings. */
final readonly class TrialView
{
    /**
     * @param list<string>               $settings   those that are not as usual, in words
     * @param list<string>               $stale      why it no longer stands on what is there now
     * @param list<array<string, mixed>> $steps
     * @param list<string>               $inputs
     * @param string                     $task       what it predicts
     * @param string                     $measure    the figure that it is ranked by
     * @param ?float                     $value      mean over the folds, with its interval
     * @param ?float                     $training   the same on its own training rows
     * @param list<float|null>           $each       one per fold and repeat; null where it is not defined
     * @param bool                       $pooled     whether the folds of a repeat are judged together, since some hold too few events
     * @param ?float                     $baseline   what doing nothing clever scores
     * @param string                     $size       how much there is to read
     * @param ?string                    $weight     the column by which records counted
     * @param int                        $weightless rows that had no weight above 0: they taught nothing and count nothing
     * @param ?float                     $weightSum  what the open rows stand for together
     */
    public function __construct(
        public int $id,
        public int $number,
        public string $learner,
        public string $title,
        public array $settings,
        public ?string $variantLetter,
        public ?int $variantId,
        public string $state,
        public ?string $failure,
        public array $stale,
        public array $steps,
        public array $inputs,
        public string $size,
        public int $columns,
        public int $rows,
        public int $unanswered,
        public string $task,
        public string $measure,
        public ?float $value,
        public ?float $low,
        public ?float $high,
        public ?float $training,
        public array $each,
        public bool $pooled,
        public ?float $baseline,
        public ?string $weight,
        public int $weightless,
        public ?float $weightSum,
        public bool $sealOpened,
        public string $createdAt,
    ) {
    }

    public static function of(Trial $trial): self
    {
        $f = $trial->figures();
        /** @var array{each?: list<?float>, auc?: list<?float>, value?: ?float, low?: ?float, high?: ?float, training?: ?float, pooled?: bool} $folds */
        $folds = \is_array($f['folds'] ?? null) ? $f['folds'] : [];
        $task = \is_string($f['task'] ?? null) ? $f['task'] : (\array_key_exists('auc', $f) ? Task::TWO : $trial->study()->task());
        $figure = Figures::ranking($task);
        $name = $figure->key;
        /** @var array{value?: ?float, low?: ?float, high?: ?float} $pooled */
        $pooled = \is_array($f[$name] ?? null) ? $f[$name] : [];
        $baseline = \is_array($f['baseline'] ?? null) ? $f['baseline'][$name] ?? null : null;
        /** @var array{column?: string, without?: int, sum?: float|int} $weight */
        $weight = \is_array($f['weight'] ?? null) ? $f['weight'] : [];
        $main = isset($folds['value']) ? $folds : $pooled;

        return new self(
            $trial->id(),
            $trial->number(),
            $trial->learner(),
            Learners::title($trial->learner()),
            Learners::unusual($trial->learner(), $trial->settings()),
            $trial->variant()?->letter(),
            $trial->variant()?->id(),
            $trial->state(),
            $trial->failure(),
            $trial->isDone() ? Ancestry::stale($trial) : [],
            $trial->steps(),
            $trial->inputs(),
            \is_string($f['size'] ?? null) ? $f['size'] : '',
            \is_int($f['columns'] ?? null) ? $f['columns'] : 0,
            \is_int($f['rows'] ?? null) ? $f['rows'] : 0,
            \is_int($f['unanswered'] ?? null) ? $f['unanswered'] : 0,
            $task,
            $figure->name,
            $main['value'] ?? null,
            $main['low'] ?? null,
            $main['high'] ?? null,
            $folds['training'] ?? null,
            // Trials of before had nothing but AUC to keep.
            $folds['each'] ?? $folds['auc'] ?? [],
            $folds['pooled'] ?? false,
            \is_float($baseline) || \is_int($baseline) ? (float) $baseline : null,
            $weight['column'] ?? null,
            $weight['without'] ?? 0,
            isset($weight['sum']) ? (float) $weight['sum'] : null,
            null !== $trial->sealedFigures(),
            $trial->createdAt()->format(\DATE_ATOM),
        );
    }
}
