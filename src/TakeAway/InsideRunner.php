<?php

declare(strict_types=1);

namespace App\TakeAway;

use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Judgment\Judgments;
use App\Logbook\Logbook;
use App\Source\Connections;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Progress;
use Dokimos\Core\TakeAway\Dialect;
use Dokimos\Core\TakeAway\InDatabase;

/** Has a database score one of its tables. */
final readonly class InsideRunner implements PieceRunner
{
    public const KIND = 'inside';
    /** What has no end is ended by the server. */
    private const LONGEST = '2h';

    public function __construct(
        private EntityManagerInterface $entities,
        private Judgments $judgments,
        private Connections $connections,
        private CompanyDatabase $company,
        private Logbook $logbook,
    ) {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $inside = $this->entities->find(ScoredInside::class, $job->subject());
        if (null === $inside || !$inside->isRunning()) {
            return;
        }
        $model = $this->judgments->inUse($inside->trial());
        $progress->report(0.1, 'the database works');
        if (0 === $inside->connection()) {
            [$pdo, $dialect] = [$this->company->open(), Dialect::Sqlite];
        } else {
            $connection = $this->connections->find($job->user(), $inside->connection());
            [$pdo, $dialect] = [$this->connections->writing($connection), Dialect::PostgreSql];
            $pdo->exec("SET statement_timeout = '".self::LONGEST."'");
        }
        $done = (new InDatabase($pdo, $dialect))->score($model, $inside->source(), $inside->carried(), $inside->target());
        $inside->done($done['rows'], $done['seconds'], $done['proof']->sentence());
        $this->logbook->write($inside->study(), $job->user(), 'decisions', \sprintf(
            'Trial %d scored %s records inside %s, into %s%s. %s',
            $inside->trial()->number(),
            number_format($done['rows']),
            $inside->place(),
            $inside->target(),
            $inside->isDraft() ? ', as a draft' : '',
            $done['proof']->sentence(),
        ));
        $this->entities->flush();
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $inside = $this->entities->find(ScoredInside::class, $job->subject());
        if (null !== $inside && $inside->isRunning()) {
            $inside->fail($failure ?? 'Stopped. Nothing was written.');
            $this->entities->flush();
        }
    }
}
