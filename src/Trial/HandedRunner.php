<?php

declare(strict_types=1);

namespace App\Trial;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Logbook\Logbook;
use App\Question\Ground;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Validate\Trying;

/**
 * Fits a trial on every record whose outcome is known. What it was calibrated by stays: that was learned on records its models had not
 * seen.
 */
final readonly class HandedRunner implements PieceRunner
{
    public const KIND = 'handed';

    public function __construct(private EntityManagerInterface $entities, private Ground $ground, private Logbook $logbook)
    {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $trial = $this->entities->find(Trial::class, $job->subject());
        if (null === $trial || null === $trial->opening()) {
            return;
        }
        $study = $trial->study();
        $question = $trial->question();
        [$table, $outcome, $rows] = $this->ground->whole($study, $this->ground->needed($study, $trial->steps(), $trial->inputs()));
        $model = (new Trying(
            $table,
            $trial->inputs(),
            $outcome,
            Preparation::fromArray($trial->steps()),
            $trial->refitted(),
            $question->classes(),
            $this->ground->weights($study, $rows),
            $question->plan()?->apart($this->ground->labels($study, $rows)),
            $trial->part(),
            $trial->choice(),
        ))->whole((string) $question->target(), (string) $question->event(), $progress)->toArray();
        $calibrated = $trial->model()['calibrated'] ?? null;
        $trial->handOn($model + (null === $calibrated ? [] : ['calibrated' => $calibrated]), \count($rows));
        $this->logbook->write(
            $study,
            $job->user(),
            'judgment',
            \sprintf(
                'Trial %d was fitted once more on all %s records, sealed ones too: this model scores from now on. The figures are those of the one that was examined.',
                $trial->number(),
                number_format(\count($rows)),
            ),
        );
        $this->entities->flush();
    }

    public function abandon(Job $job, ?string $failure): void
    {
    }
}
