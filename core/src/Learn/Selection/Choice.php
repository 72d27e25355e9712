<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Selection;

use Dokimos\Core\Learn\LearnerSetting;
use Dokimos\Core\Progress;

/** The settings by which a regression chooses its columns, and the choosing. */
final class Choice
{
    /** @return list<LearnerSetting> */
    public static function settings(): array
    {
        return [
            new LearnerSetting('selection', 'Choose columns', LearnerSetting::CHOICE, 'all of them', 'Step by step, each with what was weighed. Chosen on the training rows of each fold, so that the figures stay honest.', choices: ['all of them', Selection::FORWARD, Selection::BACKWARD, Selection::STEPWISE]),
            new LearnerSetting('by', 'Chosen by', LearnerSetting::CHOICE, 'AIC', 'AIC keeps what helps prediction, BIC fewer; p-values go by the two limits.', choices: ['AIC', 'BIC', 'p-value']),
            new LearnerSetting('enter', 'p to enter, under', LearnerSetting::NUMBER, 0.05, 'Used when chosen by p-value.', 0.0, 1.0),
            new LearnerSetting('stay', 'p to stay, up to', LearnerSetting::NUMBER, 0.1, 'Used when chosen by p-value; more than to enter, or columns come and go.', 0.0, 1.0),
            new LearnerSetting('steps', 'Steps, at most', LearnerSetting::WHOLE, 0, '0 sets no limit.', 0, 10000),
        ];
    }

    /**
     * @param array<string, string|float|int|bool> $settings
     * @param list<string>                         $columns
     * @param \Closure(list<string>): Candidate    $fit
     *
     * @return array{final: list<string>, trace: list<array<string, mixed>>}
     */
    public static function of(array $settings, array $columns, int $rows, \Closure $fit, Progress $progress): array
    {
        $selection = new Selection($fit, $columns, (int) $settings['steps'], $progress);
        $method = (string) $settings['selection'];
        if ('p-value' === $settings['by']) {
            return $selection->byP($method, (float) $settings['enter'], (float) $settings['stay']);
        }
        $chosen = $selection->byCriterion($method, 'BIC' === $settings['by'] ? log(max(1, $rows)) : 2.0);

        return ['final' => $chosen['final'], 'trace' => $chosen['trace']];
    }
}
