<?php

declare(strict_types=1);

namespace App\Source;

use App\Account\User;
use App\Http\Problem;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Format\Container;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Format\Dialect;
use Dokimos\Core\Format\DialectSniffer;
use Dokimos\Core\Format\UnreadableTable;
use Dokimos\Core\Progress;

/** Files on their way in. */
final readonly class Uploads
{
    /** Records taken from a sheet or a database for a look. */
    private const LOOKED_AT = 1000;
    private const TRIED = 3;
    /** Containers looked into at the same time, and seconds to wait for a place. */
    private const LOOKS = 2;
    private const WAIT = 0.3;

    public function __construct(private EntityManagerInterface $entities, private Connections $connections, private UploadPieces $pieces, private string $dataDirectory, private string $projectDirectory)
    {
    }

    public function begin(User $user, string $fileName, int $size): Upload
    {
        if ($size > Upload::LARGEST) {
            throw new Problem(413, \sprintf('%s is larger than 2 GB, the most that can be imported.', $fileName), 'size');
        }
        if ($size <= 0) {
            throw Problem::invalid(\sprintf('%s is empty: there is no line to read. Nothing was imported.', $fileName), 'size');
        }
        $free = @disk_free_space($this->dataDirectory);
        if (false !== $free && $free < 3 * $size) {
            throw new Problem(507, \sprintf('An import needs three times the file\'s size free on the disk: %s MB, and %s MB are left.', number_format(3 * $size / 1048576), number_format($free / 1048576)));
        }

        return $this->keep(new Upload($user, mb_substr(basename($fileName), 0, 255), $size));
    }

    /** Whether it is a database: then nobody knows how long reading takes. */
    public function isDatabase(Upload $upload): bool
    {
        return null !== $upload->connection() || 'database' === Container::kindOf($this->path($upload->id()));
    }

    /** An upload that is complete at once: what is read lies on the server. */
    public function ofConnection(DatabaseConnection $connection): Upload
    {
        return $this->keep(new Upload($connection->user(), $connection->database(), 0, $connection));
    }

    private function keep(Upload $upload): Upload
    {
        $this->entities->persist($upload);
        $this->entities->flush();
        $path = $this->path($upload->id());
        @mkdir(\dirname($path), 0770, true);
        // After a restore an id may come again: nothing of an earlier file may shine through.
        array_map(unlink(...), glob($path.'*') ?: []);
        touch($path);

        return $upload;
    }

    private function container(int $id, bool $look, ?Progress $progress = null): ?Container
    {
        $connection = $this->entities->find(Upload::class, $id)?->connection();

        return null === $connection ? ContainerApart::of($this->path($id), $look ? ContainerApart::LOOK : ContainerApart::IMPORT, $this->projectDirectory, $progress) : $this->connections->open($connection);
    }

    public function of(User $user, int $id): Upload
    {
        $upload = $this->entities->find(Upload::class, $id);

        return null !== $upload && $upload->user() === $user ? $upload : throw Problem::notFound('upload');
    }

    /** @param string $checksum SHA-256 of the piece, hexadecimal */
    public function receive(Upload $upload, int $offset, string $bytes, string $checksum): void
    {
        if ($offset !== $upload->received()) {
            throw new Problem(409, \sprintf('The upload stands at byte %s; go on from there.', number_format($upload->received())), 'offset', ['received' => $upload->received()]);
        }
        if (\strlen($bytes) > Upload::PIECE || $offset + \strlen($bytes) > $upload->size() || '' === $bytes) {
            throw Problem::invalid('A piece has at most 8 MiB and does not reach beyond the size announced.', 'offset');
        }
        if (!hash_equals(hash('sha256', $bytes), strtolower($checksum))) {
            throw Problem::invalid('The piece arrived damaged; send it again. The pieces before it were kept.', 'checksum');
        }
        $handle = fopen($this->path($upload->id()), 'c+');
        if (false === $handle || -1 === fseek($handle, $offset) || fwrite($handle, $bytes) !== \strlen($bytes)) {
            throw new Problem(507, 'The disk is full. The pieces before this one were kept; free some space and go on.');
        }
        fclose($handle);
        $this->pieces->keep($upload->id(), $offset, $bytes);
        $upload->receive(\strlen($bytes));
        $this->entities->flush();
    }

    /** Where its bytes lie on this machine; those that another one received are brought here first. */
    public function path(int $id): string
    {
        $path = $this->dataDirectory.'/uploads/'.$id.'.part';
        $this->pieces->bring($id, $path);

        return $path;
    }

    /**
     * The file that is read as text: the upload itself, or the CSV of one of the tables in it.
     *
     * @param bool $look the first records only
     */
    public function text(int $id, Portion $portion, bool $look = false, ?Progress $progress = null): string
    {
        $container = $this->container($id, $look, $progress);
        if (null === $container) {
            return $this->path($id);
        }
        $path = $this->path($id).'.'.$portion->key().($look ? '.look.csv' : '.csv');
        // Several workers begin together: one writes the text, and all read the same.
        $lock = fopen($path.'.lock', 'c');
        if (false === $lock) {
            throw new Problem(507, 'The disk is full. Nothing was imported.');
        }
        for ($wait = 2000; !flock($lock, \LOCK_EX | \LOCK_NB); $wait = min(50000, 2 * $wait)) {
            usleep($wait);
            $progress?->report(0.0);
        }
        try {
            if (!is_file($path)) {
                $container->write($portion->part ?? $container->parts()[0], $path.'.new', $look ? min(self::LOOKED_AT, $portion->most) : $portion->most);
                rename($path.'.new', $path);
            }
        } finally {
            @unlink($path.'.new');
            fclose($lock);
        }

        return $path;
    }

    public function discard(int $id): void
    {
        array_map(unlink(...), glob($this->path($id).'*') ?: []);
        $upload = $this->entities->find(Upload::class, $id);
        if (null !== $upload) {
            $this->entities->remove($upload);
            $this->entities->flush();
        }
    }

    /** How the file seems to be written, below the lines that are skipped. */
    public function detected(Upload $upload, int $skip = 0, Portion $portion = new Portion()): Dialect
    {
        $sample = (string) file_get_contents($this->text($upload->id(), $portion, true), false, null, 0, DialectSniffer::SAMPLE);
        for ($i = 0; $i < $skip && false !== $end = strpos($sample, "\n"); ++$i) {
            $sample = substr($sample, $end + 1);
        }

        return DialectSniffer::detect('' === $sample ? "\n" : $sample);
    }

    /** How the file would be read, with its first records. */
    public function reading(Upload $upload, ?Dialect $wanted = null, Portion $portion = new Portion()): ReadingView
    {
        $slot = null === $upload->connection() && null === Container::kindOf($this->path($upload->id())) ? null : $this->slot();
        try {
            return $this->read($upload, $wanted, $portion);
        } finally {
            null === $slot || fclose($slot);
        }
    }

    /**
     * Looking into containers may take all the time it is given: a part of those who answer pages stays free of it.
     *
     * @return resource
     */
    private function slot(): mixed
    {
        $until = microtime(true) + self::WAIT;
        do {
            for ($i = 0; $i < self::LOOKS; ++$i) {
                $slot = fopen(\sprintf('%s/uploads/look-%d.lock', $this->dataDirectory, $i), 'c');
                if (false !== $slot && flock($slot, \LOCK_EX | \LOCK_NB)) {
                    return $slot;
                }
            }
            usleep(50000);
        } while (microtime(true) < $until);
        throw new Problem(503, 'Other workbooks and databases are being looked at just now. Try again in a moment; nothing was lost.');
    }

    private function read(Upload $upload, ?Dialect $wanted, Portion $portion): ReadingView
    {
        $container = $this->container($upload->id(), true);
        $parts = $container?->parts() ?? [];
        [$part, $path] = $this->looked($upload, $portion, $parts);
        $sample = (string) file_get_contents($path, false, null, 0, DialectSniffer::SAMPLE);
        $dialect = $wanted ?? DialectSniffer::detect($sample);
        $whole = \strlen($sample) < DialectSniffer::SAMPLE;
        if (!$whole && false !== $end = strrpos($sample, "\n")) {
            $sample = substr($sample, 0, $end + 1);
        }
        // Read on from the file, not from the sample: a record may be longer than that.
        // JSON Lines are looked through for their names first; for a look the beginning is enough.
        $reader = $dialect->reader(Dialect::JSON_LINES === $dialect->form ? static fn () => [$sample] : (new CsvFile($path))->blocks(...));
        $columns = [];
        foreach ($reader->batches(20) as $batch) {
            $columns = $batch->columns;
            break;
        }
        $records = [];
        foreach ($columns[0] ?? [] as $i => $_) {
            $records[] = array_map(static fn (array $c) => mb_strimwidth($c[$i], 0, 80, '…'), $columns);
        }
        $lines = substr_count($sample, "\n");
        $lines += $whole && '' !== $sample && "\n" !== $sample[-1] ? 1 : 0;
        $about = max(1, (int) round(($lines - ($dialect->header && Dialect::TEXT === $dialect->form ? 1 : 0)) * ($whole ? 1 : filesize($path) / max(1, \strlen($sample)))));

        $held = null === $part ? null : self::held($container, $part);

        return new ReadingView($upload->id(), $upload->fileName(), $upload->size(), $upload->received(), $dialect, $reader->names(), $records, min($portion->most, $held ?? $about), $container?->what(), $parts, $part, $held, null === $container ? null : $portion->most, array_values(array_filter([DialectSniffer::remark($sample, $dialect->encoding)])));
    }

    /**
     * The part that is looked at, and its first records. Where none was asked for and the first cannot be read, the next ones are tried, so
     * that the others can be chosen.
     *
     * @param list<string> $parts
     *
     * @return array{?string, string}
     */
    private function looked(Upload $upload, Portion $portion, array $parts): array
    {
        $tried = null === $portion->part ? \array_slice($parts, 0, self::TRIED) : [$portion->part];
        foreach ($tried as $i => $part) {
            try {
                return [$part, $this->text($upload->id(), new Portion($part, $portion->most), true)];
            } catch (UnreadableTable $e) {
                if ($i === \count($tried) - 1) {
                    throw $e;
                }
            }
        }

        return [null, $this->text($upload->id(), $portion, true)];
    }

    /** How many records there are; unknown where counting takes too long. */
    private static function held(?Container $container, string $part): ?int
    {
        try {
            return $container?->about($part);
        } catch (UnreadableTable) {
            return null;
        }
    }
}
