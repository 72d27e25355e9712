<?php

declare(strict_types=1);

namespace App\Demo;

use App\Account\User;
use App\Http\Problem;
use App\Source\Upload;
use App\Source\Uploads;

/** Examples that ship with the app: tables of the invented company, and a stand-in for its database. */
final readonly class Examples
{
    /** Not the demo's own: an example is another draw from the same company. */
    private const SEED = 2104;
    private const ROWS = 3000;

    public function __construct(private Uploads $uploads)
    {
    }

    /** @return list<Example> */
    public function items(): array
    {
        return [
            new Example('visits', 'visits.csv', 'Past boiler visits and how they ended, one a line, with the blemishes such files have'),
            new Example('bookings', 'bookings.csv', 'Visits to come: the same columns, without what is known only afterwards'),
            new Example('households', 'households.csv', 'The households behind the visits'),
            new Example(
                'company',
                'company.sqlite',
                'A simulated company database with all of these as tables, and a view of visits that needed a return trip',
            ),
        ];
    }

    /** Puts an example where an upload would lie. */
    public function take(User $user, string $name): Upload
    {
        $item = array_values(
            array_filter($this->items(), static fn (Example $e) => $e->name === $name),
        )[0] ?? throw Problem::notFound('example');
        $bytes = 'company' === $name
            ? $this->company()
            : implode('', iterator_to_array(GenerateCommand::tables(self::SEED, self::ROWS, new Blemishes())[$name], false));
        $upload = $this->uploads->begin($user, $item->fileName, \strlen($bytes));
        foreach (str_split($bytes, Upload::PIECE) as $i => $piece) {
            $this->uploads->receive($upload, $i * Upload::PIECE, $piece, hash('sha256', $piece));
        }

        return $upload;
    }

    /** The company database, as the bytes of its file. */
    public function company(): string
    {
        return self::database(GenerateCommand::tables(self::SEED, self::ROWS, new Blemishes()));
    }

    /** @param array<string, iterable<string>> $tables lines of CSV by name */
    private static function database(array $tables): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'company');
        try {
            $database = new \SQLite3($path);
            $database->enableExceptions(true);
            $database->exec('BEGIN');
            foreach ($tables as $table => $lines) {
                self::fill($database, $table, $lines);
            }
            $database->exec("CREATE VIEW returned AS SELECT * FROM visits WHERE return_visit = 'yes'; COMMIT");
            $database->close();

            return (string) file_get_contents($path);
        } finally {
            unlink($path);
        }
    }

    /** @param iterable<string> $lines */
    private static function fill(\SQLite3 $database, string $table, iterable $lines): void
    {
        $insert = null;
        foreach ($lines as $line) {
            $cells = str_getcsv(rtrim($line, "\r\n"), ',', '"', '');
            if (null === $insert) {
                $database->exec(
                    \sprintf('CREATE TABLE "%s" (%s)', $table, implode(', ', array_map(static fn (?string $n) => '"'.$n.'"', $cells))),
                );
                $insert = $database->prepare(
                    \sprintf('INSERT INTO "%s" VALUES (%s)', $table, implode(', ', array_fill(0, \count($cells), '?'))),
                );
                continue;
            }
            \assert($insert instanceof \SQLite3Stmt);
            foreach ($cells as $i => $cell) {
                $insert->bindValue($i + 1, '' === $cell ? null : $cell);
            }
            $insert->execute();
        }
    }
}
