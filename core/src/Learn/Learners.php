<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Learn\Baseline\Baseline;
use Dokimos\Core\Learn\Baseline\BaselineModel;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Logistic\LogisticRegression;

/** The learners by name, and their models read back. */
final class Learners
{
    /** @return list<array{name: string, title: string, explanation: string}> */
    public static function all(): array
    {
        return [
            ['name' => 'logistic', 'title' => 'Logistic regression', 'explanation' => 'Adds up one effect per column. Readable term by term, quick, and hard to beat when effects are steady.'],
            ['name' => 'baseline', 'title' => 'Baseline', 'explanation' => 'Gives every record the average chance. What doing nothing clever would score.'],
        ];
    }

    /** @param array<string, mixed> $settings */
    public static function make(string $name, array $settings = []): Learner
    {
        $learner = match ($name) {
            'logistic' => new LogisticRegression(),
            'baseline' => new Baseline(),
            default => throw new CannotFit(\sprintf('There is no learner called "%s".', $name)),
        };
        if ([] !== $unknown = array_diff(array_keys($settings), array_keys($learner->settings()))) {
            throw new CannotFit(\sprintf('%s has no setting called "%s".', self::title($name), implode('", "', $unknown)));
        }

        return $learner;
    }

    public static function title(string $name): string
    {
        return array_column(self::all(), 'title', 'name')[$name] ?? $name;
    }

    /** @param array<string, mixed> $data */
    public static function read(array $data): Model
    {
        if ('baseline' === ($data['learner'] ?? null)) {
            /** @var array{chance: float} $data */
            return BaselineModel::fromArray($data);
        }

        return LogisticModel::fromArray($data);
    }
}
