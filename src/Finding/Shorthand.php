<?php

declare(strict_types=1);

namespace App\Finding;

use Dokimos\Core\Findings\Finding;
use Dokimos\Core\Prepare\Words;

/** A finding in a few words, and its remedies as buttons say them. */
final class Shorthand
{
    public static function of(Finding $finding): string
    {
        $figure = static fn (string $name): float => (float) ($finding->figures[$name] ?? 0);
        $records = number_format($figure('records'));
        $share = $figure('share');

        return match ($finding->sort) {
            'missing' => $share >= 0.1 ? \sprintf('1 in %d missing', (int) round(1 / $share)) : number_format($figure('missing')).' missing',
            'missing code' => \sprintf('%s in %s %s', \is_float($finding->figures['code'] ?? null) ? str_replace('-', "\u{2212}", Words::number($finding->figures['code'])) : '“'.($finding->figures['code'] ?? '').'”', $records, '1' === $records ? 'row' : 'rows'),
            'near copy', 'copy' => \sprintf('%s of %s', $finding->sort, $finding->columns[0] ?? ''),
            'strong relation' => 'goes with '.($finding->columns[0] ?? ''),
            'skew' => 'skewed, '.Words::number($figure('skewness')),
            'outliers' => \sprintf('%s %s', $records, '1' === $records ? 'outlier' : 'outliers'),
            'numbers like codes' => 'is a code',
            'many categories' => number_format($figure('distinct')).' values',
            'rare categories' => \sprintf('%d rare %s', (int) $figure('values'), 1.0 === $figure('values') ? 'value' : 'values'),
            'repeated keys' => 'repeats',
            'leak suspicion' => $figure('auc') > 0.95 ? 'gives it away' : 'known too late?',
            'imbalance' => \sprintf('%s%% event', Words::number(round(100 * $share, 1))),
            'numbers stored as text' => 'numbers as text',
            default => $finding->sort,
        };
    }

    /** @param ?array<string, mixed> $step */
    public static function remedy(string $do, ?string $to, string $column, ?array $step): RemedyView
    {
        // Of two columns that say the same, the remedy names the one to give up.
        $about = 'set aside' === $do && null !== $to ? $to : $column;

        return new RemedyView($do, $about, 'kind' === $do ? $to : null, match ($do) {
            'set aside' => 'Set '.$about.' aside',
            'kind' => 'Read as '.$to,
            'key' => 'Use as key',
            'known afterwards' => 'Known only afterwards',
            'step' => match ($step['step'] ?? '') {
                'fill_missing' => 'Fill…',
                'recode' => 'Make it missing…',
                'group_rare' => 'Group rare values…',
                'outliers' => 'Cap…',
                'scale' => 'Take its logarithm…',
                default => 'Learn from the first only…',
            },
            default => $do,
        }, $step);
    }
}
