<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use App\Trial\Trial;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\ShowsRules;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\Verdict;
use OpenApi\Attributes as OA;

/** Rules in the order they answer; the last is for every other record. */
final readonly class RulesSection implements Section
{
    /** @param list<RuleView> $rules */
    public function __construct(
        #[OA\Property(enum: ['rules'])]
        public string $kind,
        public array $rules,
    ) {
    }

    public static function of(Trial $trial, ScoringModel $scoring): ?self
    {
        if (!$scoring->model instanceof ShowsRules) {
            return null;
        }
        $views = [];
        foreach ($scoring->model->shownRules() as $i => $rule) {
            $share = Interval::wilson($rule->hits, $rule->rows);
            $rows = (int) round($rule->rows);
            $views[] = new RuleView(
                $i + 1,
                $rule->says,
                $rule->class,
                $rows,
                $share->value,
                $share->low,
                $share->high,
                (int) round($rule->grown),
                $rule->trainingShare,
                $rule->chance,
                Verdict::of($share, $rows, $rule->overall),
            );
        }

        return [] === $views ? null : new self('rules', $views);
    }
}
