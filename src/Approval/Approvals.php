<?php

declare(strict_types=1);

namespace App\Approval;

use App\Account\User;
use App\Http\Problem;
use App\Judgment\Groupings;
use App\Judgment\Judgments;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Study\Study;
use App\Trial\Ancestry;
use App\Trial\Trial;
use App\Trial\TrialView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Measure\GroupAtRisk;
use Dokimos\Core\Measure\GroupsAtRisk;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** Lets trials be used, and takes that back. */
final readonly class Approvals
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Judgments $judgments,
        private Groupings $groupings,
        private Logbook $logbook,
        private Ground $ground,
        private string $projectDirectory,
    ) {
    }

    /** @return list<Approval> the newest first */
    public function of(Study $study): array
    {
        return $this->entities->getRepository(Approval::class)->findBy(['study' => $study], ['number' => 'DESC']);
    }

    /** Whether what it answers may be used: all else is a draft. */
    public function isApproved(Trial $trial): bool
    {
        return null !== $this->entities->getRepository(Approval::class)->findOneBy(['trial' => $trial, 'withdrawnAt' => null]);
    }

    /** What is written beside an answer that leaves. */
    public function standing(Trial $trial): string
    {
        return $this->isApproved($trial) ? 'approved' : 'draft';
    }

    /** What was approved and withdrawn is not used any more; what was never approved is a draft. */
    public function isWithdrawn(Trial $trial): bool
    {
        return !$this->isApproved($trial) && null !== $this->entities->getRepository(Approval::class)->findOneBy(['trial' => $trial]);
    }

    /** @throws Problem where the trial is not done, or stands on what has changed */
    public function approve(Trial $trial, User $user, ApprovalRequest $request): Approval
    {
        $model = $this->judgments->inUse($trial);
        $stale = Ancestry::stale($trial);
        if ([] !== $stale) {
            throw new Problem(
                409,
                \sprintf('Trial %d is stale: %s Fit it again, and approve that one.', $trial->number(), implode(' ', $stale)),
            );
        }
        $again = new \DateTimeImmutable($request->again);
        if ($again <= new \DateTimeImmutable('today')) {
            throw new Problem(422, 'The day to look again lies in the future.', 'again');
        }
        $kept = $model->toArray();
        $last = $this->of($trial->study())[0] ?? null;
        $approval = new Approval(
            $trial->study(),
            $user,
            $trial,
            ($last?->number() ?? 0) + 1,
            $user->name(),
            trim($request->sentence),
            trim($request->limits),
            $again,
            $request->rule,
            $request->cutoff,
            $this->evidence($trial, $kept, $request),
            $kept,
        );
        $this->entities->persist($approval);
        $this->logbook->write($trial->study(), $user, 'decisions', \sprintf(
            'Trial %d approved for use as number %d, to be looked at again on %s.',
            $trial->number(),
            $approval->number(),
            $again->format('j M Y'),
        ));
        $this->entities->flush();

        return $approval;
    }

    public function withdraw(Approval $approval, User $user, string $why): void
    {
        if (!$approval->isInForce()) {
            throw new Problem(409, 'This approval is withdrawn already.');
        }
        $approval->withdraw($user->name(), trim($why));
        $this->logbook->write(
            $approval->study(),
            $user,
            'decisions',
            \sprintf('Approval %d withdrawn: %s', $approval->number(), trim($why)),
        );
        $this->entities->flush();
    }

    /**
     * What it was approved on, as it is now: later changes of the study change nothing of it.
     *
     * @param array<string, mixed> $model
     *
     * @return array<string, mixed>
     */
    private function evidence(Trial $trial, array $model, ApprovalRequest $request): array
    {
        $study = $trial->study();
        $question = $trial->question();
        $others = [];
        foreach ($this->entities->getRepository(Trial::class)->findBy(['question' => $question, 'state' => Trial::DONE]) as $other) {
            $line = TrialView::of($other);
            $others[] = [
                'number' => $line->number,
                'title' => $line->title,
                'value' => $line->value,
                'low' => $line->low,
                'high' => $line->high,
                'opening' => $other->opening(),
            ];
        }
        $groups = [];
        foreach ($request->groups as $by) {
            $groups[] = $this->groupings->of($trial, $by, CutOff::at($request->cutoff));
        }

        /** @var array<string, mixed> $plain */
        $plain = json_decode(json_encode([
            'question' => [
                'study' => $study->name(),
                'target' => $question->target(),
                'event' => $question->event(),
                'task' => $question->task(),
            ],
            'trial' => TrialView::of($trial),
            'seal' => [
                'opening' => $trial->opening(),
                'figures' => $trial->sealedFigures(),
                'opened' => $question->isSealOpened(),
                'rows' => $question->sealedCount(),
            ],
            'split' => $question->plan(),
            'preparation' => $trial->steps(),
            'inputs' => $trial->inputs(),
            'handedRows' => $trial->handedRows(),
            'considered' => $others,
            'finalists' => $question->finalists(),
            'groups' => $groups,
            'atRisk' => $this->atRisk($trial, $request->cutoff),
            'fingerprints' => [
                'made of' => $trial->ancestry(),
                'model' => hash('sha256', json_encode($model, \JSON_THROW_ON_ERROR)),
                'code' => $this->code(),
            ],
        ], \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true, 512, \JSON_THROW_ON_ERROR);

        return $plain;
    }

    /**
     * Whom the cut-off serves worse, by every column of few values.
     *
     * @return list<GroupAtRisk> of an event; none otherwise
     */
    private function atRisk(Trial $trial, float $cutoff): array
    {
        if (Task::TWO !== $trial->line()->task) {
            return [];
        }
        $this->judgments->onItsRows($trial);
        $names = [];
        foreach ($trial->question()->table()?->columns() ?? [] as $column) {
            if ($column->kind()->isCoded() && $column->isKnown() && $column->name() !== $trial->question()->target()) {
                $names[] = $column->name();
            }
        }
        [$table, $outcome] = $this->ground->open($trial->study(), $names);

        return GroupsAtRisk::of($table, $outcome, $trial->answers()->values, CutOff::at($cutoff));
    }

    /** Fingerprint of the computation: every file of the core. */
    private function code(): string
    {
        $files = [];
        foreach (new \RecursiveIteratorIterator(
            new \RecursiveDirectoryIterator($this->projectDirectory.'/core/src', \FilesystemIterator::SKIP_DOTS),
        ) as $file) {
            if ($file instanceof \SplFileInfo) {
                $files[] = $file->getPathname();
            }
        }
        sort($files);
        $all = hash_init('sha256');
        foreach ($files as $file) {
            hash_update_file($all, $file);
        }

        return hash_final($all);
    }
}
