<?php

declare(strict_types=1);

namespace App\Trial;

use Dokimos\Core\Learn\Learners;

/** A line of the Standings. */
final readonly class TrialView
{
    /**
     * @param list<string>               $settings those that are not as usual, in words
     * @param list<string>               $stale    why it no longer stands on what is there now
     * @param list<array<string, mixed>> $steps
     * @param list<string>               $inputs
     * @param list<float>                $foldAuc  one per fold and repeat
     * @param string                     $size     how much there is to read
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
        public ?float $auc,
        public ?float $aucLow,
        public ?float $aucHigh,
        public ?float $trainingAuc,
        public array $foldAuc,
        public ?float $logLoss,
        public bool $sealOpened,
        public string $createdAt,
    ) {
    }

    public static function of(Trial $trial): self
    {
        $f = $trial->figures();
        /** @var array{auc?: list<float>, value?: ?float, low?: ?float, high?: ?float, training?: ?float} $folds */
        $folds = \is_array($f['folds'] ?? null) ? $f['folds'] : [];
        /** @var array{value?: ?float, low?: ?float, high?: ?float} $pooled */
        $pooled = \is_array($f['auc'] ?? null) ? $f['auc'] : [];
        // One fold has no spread of folds: then the pooled figure with DeLong's interval stands in.
        $main = isset($folds['high']) ? $folds : $pooled;
        /** @var array{value?: ?float} $logLoss */
        $logLoss = \is_array($f['logLoss'] ?? null) ? $f['logLoss'] : [];

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
            $main['value'] ?? null,
            $main['low'] ?? null,
            $main['high'] ?? null,
            $folds['training'] ?? null,
            $folds['auc'] ?? [],
            $logLoss['value'] ?? null,
            null !== $trial->sealedFigures(),
            $trial->createdAt()->format(\DATE_ATOM),
        );
    }
}
