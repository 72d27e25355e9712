<?php

declare(strict_types=1);

namespace App\Decision;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Source\Connections;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\TableTarget;

/** Writes a list as a table of a database: of a server that the operator lists, or of a new SQLite file. */
final readonly class ListExports
{
    private const MOST = 200_000;

    public function __construct(
        private Lists $lists,
        private ListFiles $files,
        private Connections $connections,
        private Logbook $logbook,
        private EntityManagerInterface $entities,
    ) {
    }

    /** What would be written: nothing is. */
    public function plan(Decision $decision, User $user, ExportRequest $request): ExportView
    {
        [$database, $where] = $this->open($user, $request);

        return $this->view($decision, $request, new TableTarget($database), $where);
    }

    private function view(Decision $decision, ExportRequest $request, TableTarget $target, string $where): ExportView
    {
        $columns = $this->files->columns($decision, $request->columns);
        $listed = $this->lists->of($decision->scoring(), $decision->terms());

        return new ExportView(
            $where,
            $request->table,
            $columns->names,
            array_map($target->type(...), $columns->kinds),
            \count(ListFiles::taken($listed, $request->which)),
            $target->columns($request->table),
        );
    }

    public function write(Decision $decision, User $user, ExportRequest $request): ExportView
    {
        [$database, $where] = $this->open($user, $request);
        $target = new TableTarget($database);
        $done = $this->into($target, $decision, $request, $where);
        $this->note($decision, $user, \sprintf(
            'Wrote %s records of the list "%s" to table %s of %s (%s), read back and compared.',
            number_format((int) $done->written),
            $decision->name(),
            $request->table,
            $where,
            $request->mode,
        ));

        return $done;
    }

    /** @return string the bytes of a SQLite file with the list as its table */
    public function file(Decision $decision, User $user, ExportRequest $request): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'list');
        try {
            $target = new TableTarget(new \PDO('sqlite:'.$path));
            $this->into($target, $decision, $request, 'a new file');
            unset($target);
            $this->note($decision, $user, \sprintf('Took the list "%s" along as a SQLite file.', $decision->name()));

            return (string) file_get_contents($path);
        } finally {
            unlink($path);
        }
    }

    private function into(TableTarget $target, Decision $decision, ExportRequest $request, string $where): ExportView
    {
        $plan = $this->view($decision, $request, $target, $where);
        if ($plan->records > self::MOST) {
            throw Problem::invalid(
                \sprintf(
                    'The list has %s records; a database takes up to %s. Take CSV.',
                    number_format($plan->records),
                    number_format(self::MOST),
                ),
                'which',
            );
        }
        $columns = $this->files->columns($decision, $request->columns);
        $done = $target->write(
            $request->table,
            $columns->names,
            $columns->kinds,
            $this->files->records($decision, $request->which, $columns),
            $request->mode,
            $request->key,
        );

        return new ExportView(
            $plan->where,
            $plan->table,
            $plan->names,
            $plan->types,
            $plan->records,
            $plan->there,
            $done['written'],
            $done['there'],
            $done['checksum'],
        );
    }

    /** @return array{\PDO, string} the database and what it is called */
    private function open(User $user, ExportRequest $request): array
    {
        if (null === $request->connectionId) {
            return [new \PDO('sqlite::memory:'), 'a new file'];
        }
        $connection = $this->connections->find($user, $request->connectionId);

        return [$this->connections->writing($connection), \sprintf('%s on %s', $connection->database(), $connection->host())];
    }

    private function note(Decision $decision, User $user, string $sentence): void
    {
        $this->logbook->write($decision->study(), $user, 'decisions', $sentence);
        $this->entities->flush();
    }
}
