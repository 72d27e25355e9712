<?php

declare(strict_types=1);

namespace App\Table;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Source\Portion;
use App\Source\Upload;
use App\Source\Uploads;
use App\Storage\Store;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\Dialect;

/** Starts imports, and lists what was imported. */
final readonly class Tables
{
    private const QUICK_BYTES = 8 << 20;

    public function __construct(private EntityManagerInterface $entities, private Jobs $jobs, private Uploads $uploads, private Store $store)
    {
    }

    public function import(Study $study, User $user, Upload $upload, string $name, ?Dialect $dialect, Portion $portion = new Portion()): Job
    {
        if (!$upload->isComplete()) {
            throw new Problem(409, \sprintf('Only %s of %s bytes have arrived; send the rest first.', number_format($upload->received()), number_format($upload->size())));
        }
        $dialect ??= $this->uploads->reading($upload, null, $portion)->dialect;
        // How much a database will send, and how long a statement takes, is not known before.
        $isDatabase = $this->uploads->isDatabase($upload);
        $large = $upload->size() > self::QUICK_BYTES || $isDatabase;

        return $this->entities->getConnection()->transactional(function () use ($study, $user, $upload, $name, $dialect, $portion, $isDatabase, $large): Job {
            $this->store->alone('tables', $study->id());
            $edition = 1 + $this->entities->getRepository(DataTable::class)->count(['study' => $study, 'name' => $name, 'state' => DataTable::READY]);
            $table = new DataTable($study, $name, $upload->fileName(), $upload->size(), $dialect->toArray(), $edition);
            $this->entities->persist($table);
            $this->entities->flush();
            $job = $this->jobs->start($study, $user, ImportRunner::KIND, $table->id(), \sprintf('Reading %s', $upload->fileName()), $large ? Jobs::LONG : Jobs::QUICK, ImportRunner::pieces($upload, $large, $portion, $isDatabase ? Jobs::LONG : Jobs::QUICK));
            $this->entities->flush();

            return $job;
        });
    }

    /** @throws Problem when there is no record in it, so that nothing would be left to look at */
    public function refuseEmpty(Upload $upload): void
    {
        if (!$upload->isComplete() || null !== $upload->connection()) {
            return;
        }
        $reading = $this->uploads->reading($upload);
        if ([] === $reading->records) {
            throw Problem::invalid(\sprintf('%s holds a header and no record: there is nothing to begin a study with. Nothing was kept.', $upload->fileName()), 'uploadId');
        }
    }

    /** The table, once it is read to its end. */
    public static function ready(DataTable $table): DataTable
    {
        return $table->isReady() ? $table : throw new Problem(409, 'The table is still being read.');
    }

    /** @return list<DataTable> with their columns, in one question to the database */
    public function of(Study $study): array
    {
        /** @var list<DataTable> $tables */
        $tables = $this->entities->createQuery('SELECT t, c FROM App\Table\DataTable t LEFT JOIN t.columns c WHERE t.study = :study AND t.state IN (:states) ORDER BY t.id, c.position')
            ->setParameter('study', $study)->setParameter('states', [DataTable::READY, DataTable::IMPORTING])->getResult();

        return $tables;
    }
}
