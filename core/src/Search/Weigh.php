<?php

declare(strict_types=1);

namespace Dokimos\Core\Search;

use Dokimos\Core\Learn\CanBeRead;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Progress;
use Dokimos\Core\Refusal;
use Dokimos\Core\Stretch;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Validate\FoldFit;
use Dokimos\Core\Validate\TrialData;

/** Several settings weighed on the same folds: each fold is prepared once and serves all of them. */
final class Weigh
{
    /**
     * @param list<Learner>                                           $learners
     * @param list<array{validation: list<int>, training: list<int>}> $folds    rows of the data's table
     *
     * @return list<array{answers: ?Answers, why: ?string, seconds: float, reading: ?int}> per learner its answers for all rows, NAN where none was
     *                                                                                     validated, or why there are none; and the longest reading of its fits
     *
     * @throws \Dokimos\Core\Stopped when the work should end
     */
    public static function of(TrialData $data, array $learners, array $folds, ?Progress $progress = null): array
    {
        $width = $data->width();
        $blank = array_fill(0, \count($data->outcome) * $width, \NAN);
        $out = array_map(static fn (): array => ['values' => $blank, 'why' => null, 'seconds' => 0.0, 'reading' => null], $learners);
        $done = 0;
        foreach ($folds as $fold) {
            try {
                $prepared = $data->prepared($fold['training'], $fold['validation']);
            } catch (Refusal $e) {
                return array_map(
                    static fn (): array => ['answers' => null, 'why' => $e->getMessage(), 'seconds' => 0.0, 'reading' => null],
                    $learners,
                );
            }
            foreach ($learners as $t => $learner) {
                $all = \count($folds) * \count($learners);
                $own = null === $progress ? null : new Stretch($progress, $done / $all, ($done + 1) / $all);
                $own?->report(0.0);
                ++$done;
                if (null !== $out[$t]['why']) {
                    continue;
                }
                $begun = hrtime(true);
                try {
                    $fit = FoldFit::of($prepared, $learner, $own);
                    $out[$t]['reading'] = $fit->model instanceof CanBeRead ? max($out[$t]['reading'] ?? 0, $fit->model->reading()) : null;
                    foreach ($fit->answers()->values as $i => $value) {
                        $out[$t]['values'][$fold['validation'][intdiv($i, $width)] * $width + $i % $width] = $value;
                    }
                } catch (Refusal $e) {
                    $out[$t]['why'] = $e->getMessage();
                }
                $out[$t]['seconds'] += (hrtime(true) - $begun) / 1e9;
            }
        }

        return array_map(static fn (array $o): array => [
            'answers' => null === $o['why'] ? new Answers(array_values($o['values']), $width) : null, 'why' => $o['why'], 'seconds' => $o['seconds'],
            'reading' => $o['reading'],
        ], $out);
    }
}
