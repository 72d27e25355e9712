<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\Selection\Choice;
use Dokimos\Core\Learn\ShowsChoice;
use OpenApi\Attributes as OA;

/** How a regression chose its columns, step by step or size by size. */
final readonly class ChoiceSection implements Section
{
    /**
     * @param string               $by    what the steps go by
     * @param list<ChoiceStepView> $steps
     */
    public function __construct(
        #[OA\Property(enum: ['choice'])]
        public string $kind,
        public string $by,
        public array $steps,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        $trace = $scoring->model instanceof ShowsChoice ? $scoring->model->trace() : [];

        return [] === $trace ? null : new self('choice', Choice::by($trial->settings()), array_map(self::step(...), $trace));
    }

    /** @param array<string, mixed> $told */
    private static function step(array $told): ChoiceStepView
    {
        /** @var array{action: string, term?: ?string, aic?: float|int, error?: float|int, rss?: float|int, cp?: float|int|null, model?: list<string>, losses?: array{training: ?float, held: ?float}, candidates?: list<array{action?: string, term: ?string, columns?: list<string>, p?: float|int, aic?: float|int, error?: float|int}>} $t */
        $t = $told;
        $p = null;
        $weighed = [];
        foreach ($t['candidates'] ?? [] as $c) {
            $p = $c['term'] === ($t['term'] ?? null) && isset($c['p']) ? (float) $c['p'] : $p;
            $value = $c['p'] ?? $c['aic'] ?? $c['error'] ?? null;
            $weighed[] = new WeighedView(
                $c['action'] ?? $t['action'],
                $c['term'] ?? (isset($c['columns']) && [] !== $c['columns'] ? implode(', ', $c['columns']) : 'nothing'),
                null === $value ? null : (float) $value,
            );
        }
        $value = $t['aic'] ?? $t['error'] ?? null;

        return new ChoiceStepView(
            $t['action'],
            $t['term'] ?? null,
            $p,
            null === $value ? null : (float) $value,
            $t['losses']['training'] ?? null,
            $t['losses']['held'] ?? null,
            isset($t['rss']) ? (float) $t['rss'] : null,
            isset($t['cp']) ? (float) $t['cp'] : null,
            $t['model'] ?? [],
            $weighed,
        );
    }
}
