<?php

declare(strict_types=1);

namespace App\Service;

use App\Storage\Stores;

/**
 * What stands behind POST /serve/{name}: no kernel and no session, one prepared read, the packed model kept ready in a file. Calls are
 * noted in
 * a file of their own, which the application folds into counts.
 */
final class Door
{
    private const MOST_BYTES = 2_097_152;
    private const READ = <<<'SQL'
        SELECT s.id AS service, s.version, s.paused, s.keep_days, t.id AS token, t.expires, t.per_minute, t.per_day, t.reasons, t.revoked_at
        FROM service_token t JOIN service s ON s.id = t.service_id WHERE s.name = ? AND t.hash = ?
        SQL;
    private const VERSION = <<<'SQL'
        SELECT v.package FROM service_version v WHERE v.service_id = ? AND v.number = ?
        SQL;

    public function __construct(private readonly string $data)
    {
    }

    /**
     * @param string $path  beginning with /serve/
     * @param string $token what the caller shows
     *
     * @return array{int, array<string, mixed>} status and what is said
     */
    public function answer(string $method, string $path, string $token, string $body, bool $because): array
    {
        $began = hrtime(true);
        $name = substr($path, \strlen('/serve/'));
        if (1 !== preg_match('/^[a-z0-9][a-z0-9-]{0,59}$/', $name)) {
            return [404, ['title' => 'There is no service at this address.']];
        }
        if ('POST' !== $method) {
            return [405, ['title' => 'Records are sent with POST, as JSON.']];
        }
        if ('' === $token) {
            return [401, ['title' => 'Show a token: Authorization: Bearer ….']];
        }
        $pdo = Stores::pdo($this->data);
        $row = self::row($pdo, self::READ, [$name, hash('sha256', $token)]);
        $today = gmdate('Y-m-d');
        if (null === $row || null !== $row['revoked_at'] || (\is_string($row['expires']) && $row['expires'] < $today)) {
            return [401, ['title' => 'This token opens no service here: it is unknown, revoked, or has expired.']];
        }
        $service = (int) $row['service'];
        $caller = (int) $row['token'];
        if ((bool) $row['paused'] || null === $row['version']) {
            return [503, ['title' => 'The service is paused.']];
        }
        if ($because && !(bool) $row['reasons']) {
            return [403, ['title' => 'This token may not ask for reasons.']];
        }
        $wait = $this->wait($caller, (int) $row['per_minute'], (int) $row['per_day']);
        if ($wait > 0) {
            return [429, ['title' => \sprintf('This token has used up its calls; try again in %d s.', $wait), 'retry_after' => $wait]];
        }
        $version = (int) $row['version'];
        $records = \strlen($body) > self::MOST_BYTES ? null : json_decode($body, true, 16);
        if (!\is_array($records)) {
            return $this->noted($service, $version, $caller, 0, 1, [], $began, [422, [
                'title' => \strlen($body) > self::MOST_BYTES
                    ? 'A call holds 2 MB at most.'
                    : 'The body is to be JSON: a record, or a list of records.',
            ]]);
        }
        $answerer = $this->answerer($pdo, $service, $version);
        if (null === $answerer) {
            return [503, ['title' => 'The version that answered was withdrawn, and no other was chosen yet.']];
        }
        $single = [] === $records || !array_is_list($records);
        try {
            $answers = $answerer->all($single ? [$records] : $records, $because);
        } catch (NotAnswered $e) {
            return $this->noted($service, $version, $caller, 0, 1, [], $began, [422, ['title' => $e->getMessage()]]);
        }
        $refused = \count(array_filter($answers, static fn (array $a): bool => isset($a['refused'])));
        if ((int) $row['keep_days'] > 0) {
            $sent = $single ? [$records] : $records;
            (new Inputs($this->data))->keep($service, (int) $row['keep_days'], $version, $caller, $sent, $answers);
        }
        $took = round((hrtime(true) - $began) / 1e6, 2);
        $said = $single ? [1 === $refused ? 422 : 200, $answers[0] + ['took_ms' => $took]] : [
            200,
            ['answers' => $answers, 'version' => $version, 'took_ms' => $took],
        ];

        return $this->noted($service, $version, $caller, \count($answers), $refused, $answerer->counts, $began, $said);
    }

    /**
     * @param list<int|string> $with
     *
     * @return array<string, int|string|null>|null
     */
    private static function row(\PDO $pdo, string $sql, array $with): ?array
    {
        $read = $pdo->prepare($sql);
        $read->execute($with);
        /** @var array<string, int|string|null>|false $row */
        $row = $read->fetch(\PDO::FETCH_ASSOC);

        return false === $row ? null : $row;
    }

    private function answerer(\PDO $pdo, int $service, int $version): ?Answerer
    {
        $row = self::row(
            $pdo,
            'SELECT v.created_at, a.withdrawn_at FROM service_version v JOIN approval a ON a.id = v.approval_id'
                .' WHERE v.service_id = ? AND v.number = ?',
            [$service, $version],
        );
        if (null === $row || null !== $row['withdrawn_at']) {
            return null;
        }
        $key = $service.'-'.$version.'-'.hash('crc32b', (string) $row['created_at']);

        return Packed::answerer(
            $this->data.'/serve/'.$key,
            static fn (): string => (string) (self::row($pdo, self::VERSION, [$service, $version])['package'] ?? ''),
        );
    }

    /** Seconds to wait; 0 = go ahead. Counted per machine. */
    private function wait(int $caller, int $perMinute, int $perDay): int
    {
        is_dir($this->data.'/serve') || mkdir($this->data.'/serve', 0770, true);
        $file = fopen($this->data.'/serve/rate-'.$caller, 'c+');
        if (false === $file) {
            return 0;
        }
        flock($file, \LOCK_EX);
        $now = time();
        [$minute, $inMinute, $day, $inDay] = array_map(intval(...), array_pad(explode(' ', (string) stream_get_contents($file)), 4, '0'));
        $inMinute = intdiv($now, 60) === $minute ? $inMinute + 1 : 1;
        $inDay = intdiv($now, 86400) === $day ? $inDay + 1 : 1;
        $wait = $inDay > $perDay ? 86400 - $now % 86400 : ($inMinute > $perMinute ? 60 - $now % 60 : 0);
        if (0 === $wait) {
            ftruncate($file, 0);
            rewind($file);
            fwrite($file, implode(' ', [intdiv($now, 60), $inMinute, intdiv($now, 86400), $inDay]));
        }
        fclose($file);

        return $wait;
    }

    /**
     * @param array<array-key, array<int, int>> $counts
     * @param array{int, array<string, mixed>}  $said
     *
     * @return array{int, array<string, mixed>}
     */
    private function noted(
        int $service,
        int $version,
        int $caller,
        int $records,
        int $refused,
        array $counts,
        int|float $began,
        array $said,
    ): array {
        $line = json_encode([
            's' => $service,
            'v' => $version,
            't' => $caller,
            'n' => $records,
            'r' => $refused,
            'ms' => round((hrtime(true) - $began) / 1e6, 2),
            'at' => time(),
            'c' => (object) $counts,
        ], \JSON_THROW_ON_ERROR);
        file_put_contents($this->data.'/'.Calls::FILE, $line."\n", \FILE_APPEND | \LOCK_EX);

        return $said;
    }
}
