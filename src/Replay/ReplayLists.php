<?php

declare(strict_types=1);

namespace App\Replay;

use App\Account\User;
use App\Decision\Decision;
use App\Decision\DecisionRequest;
use App\Decision\Decisions;
use App\Decision\Weighing;
use App\Score\Scoring;
use App\Score\Scorings;
use Doctrine\ORM\EntityManagerInterface;

/**
 * Batches and lists of a study that is done again.
 *
 * @phpstan-type Batch array{
 *     trial: int, table: string, cutoff: float|int, records: int, called: int, matching?: array<string, string>,
 *     answers?: array<string, string>, print?: string,
 * }
 * @phpstan-type Listed array{name: string, scoring?: int, terms: array<string, mixed>, return?: float|int}
 */
final readonly class ReplayLists
{
    public function __construct(
        private EntityManagerInterface $entities,
        private ReplayTables $tables,
        private ReplayTrials $trials,
        private Scorings $scorings,
        private Decisions $decisions,
        private Weighing $weighing,
        private Checked $checked,
    ) {
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return list<Batch>
     */
    private static function batches(array $file): array
    {
        /** @var list<Batch> */
        return \is_array($file['scorings'] ?? null) ? $file['scorings'] : [];
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return list<Listed>
     */
    private static function lists(array $file): array
    {
        /** @var list<Listed> */
        return \is_array($file['decisions'] ?? null) ? $file['decisions'] : [];
    }

    /** @param array<string, mixed> $file */
    public function goOn(StudyPlan $plan, User $user, array $file): void
    {
        foreach (array_diff_key(self::batches($file), $this->without($file)) as $i => $batch) {
            $trial = $this->trials->here($plan, $batch['trial']);
            $table = $this->tables->named($plan->study(), $batch['table']);
            if ($plan->has('scorings', $i) || null === $table || true !== $trial?->isDone()) {
                continue;
            }
            $plan->note('scorings', $i, $this->scorings->start(
                $plan->study(),
                $user,
                $trial,
                $table,
                $batch['matching'] ?? [],
                (float) $batch['cutoff'],
                $batch['answers'] ?? [],
            )->subject());
        }
        foreach (self::lists($file) as $i => $list) {
            $scoring = $this->batch($plan, $list['scoring'] ?? -1);
            if (!$plan->has('decisions', $i) && true === $scoring?->isDone()) {
                $asked = ['name' => $list['name'], 'terms' => $list['terms']];
                $request = $this->checked->as(DecisionRequest::class, $asked, \sprintf('the list "%s"', $list['name']));
                $plan->note('decisions', $i, $this->decisions->make($scoring, $user, $request)->id());
            }
        }
    }

    private function batch(StudyPlan $plan, int $place): ?Scoring
    {
        return $this->entities->find(Scoring::class, $plan->begun('scorings')[$place] ?? 0);
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return array{same: int, waiting: int, differs: list<string>}
     */
    public function compare(StudyPlan $plan, array $file): array
    {
        $same = $waiting = 0;
        $differs = [];
        $not = $this->without($file);
        foreach (array_diff_key(self::batches($file), $not) as $i => $kept) {
            $scoring = $this->batch($plan, $i);
            if (null === $scoring || !$scoring->isDone()) {
                ++$waiting;
            } elseif (StudyFile::print($scoring) === ($kept['print'] ?? '')) {
                ++$same;
            } else {
                $differs[] = \sprintf(
                    'The batch of %s by trial %d parts: %s scored and %s called instead of %s and %s.',
                    $kept['table'],
                    $kept['trial'],
                    number_format($scoring->scored()),
                    number_format($scoring->called()),
                    number_format($kept['records']),
                    number_format($kept['called']),
                );
            }
        }
        foreach (self::lists($file) as $i => $kept) {
            if (isset($not[$kept['scoring'] ?? -1])) {
                continue;
            }
            $decision = $this->entities->find(Decision::class, $plan->begun('decisions')[$i] ?? 0);
            $return = null === $decision ? null : $this->weighing->of($decision)->acted->return;
            if (null === $return) {
                ++$waiting;
            } elseif ($return === (float) ($kept['return'] ?? \NAN)) {
                ++$same;
            } else {
                $differs[] = \sprintf(
                    'The list "%s" returns %s instead of %s.',
                    $kept['name'],
                    json_encode($return),
                    json_encode($kept['return'] ?? null),
                );
            }
        }

        return ['same' => $same, 'waiting' => $waiting, 'differs' => $differs];
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return array<int, Batch> batches of trials that are not done again, by place in the file
     */
    private function without(array $file): array
    {
        $not = $this->trials->not($file);

        return array_filter(self::batches($file), static fn (array $b): bool => isset($not[$b['trial']]));
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return list<string> what is told and not done again
     */
    public function not(array $file): array
    {
        $out = [];
        foreach ($this->without($file) as $batch) {
            $out[] = \sprintf('The batch of %s by trial %d is not done again, nor are its lists.', $batch['table'], $batch['trial']);
        }
        $many = \is_array($file['approvals'] ?? null) ? \count($file['approvals']) : 0;

        return [...$out, ...(0 === $many ? [] : [\sprintf(
            '%s told in the file and not done again: who approves a model does so by their own name.',
            1 === $many ? 'One approval is' : $many.' approvals are',
        )])];
    }
}
