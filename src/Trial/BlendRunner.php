<?php

declare(strict_types=1);

namespace App\Trial;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Logbook\Logbook;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;

/** Weighs the trials of a blend and judges it on folds that did not choose the weights. */
final readonly class BlendRunner implements PieceRunner
{
    public const KIND = 'blend';

    public function __construct(
        private EntityManagerInterface $entities,
        private Blends $blends,
        private Trials $trials,
        private FurtherFigures $further,
        private Logbook $logbook,
    ) {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $trial = $this->entities->find(Trial::class, $job->subject());
        if (null === $trial || $trial->isDone()) {
            return;
        }
        $trial->finish(...$this->blends->worked($trial));
        $measure = $trial->question()->figure();
        $this->further->measure($trial->study(), $measure);
        $view = TrialView::of($trial);
        $this->logbook->write($trial->study(), $job->user(), 'trials', \sprintf(
            'Trial %d, a blend: %s.',
            $trial->number(),
            null === $view->value ? 'no '.$measure->name : $measure->name.' '.$measure->said($view->value),
        ));
        $this->entities->flush();
        $this->trials->compare($trial->study(), $progress);
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $trial = $this->entities->find(Trial::class, $job->subject());
        if (null !== $trial && !$trial->isDone()) {
            null === $failure ? $trial->cancel() : $trial->fail($failure);
            $this->entities->flush();
        }
    }
}
