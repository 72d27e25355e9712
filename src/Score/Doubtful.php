<?php

declare(strict_types=1);

namespace App\Score;

use App\Http\Problem;
use App\Question\OpenCells;
use Dokimos\Core\Explain\Confidence;
use Dokimos\Core\Stamp;
use Dokimos\Core\Table\Table;
use Symfony\Contracts\Cache\CacheInterface;
use Symfony\Contracts\Cache\ItemInterface;

/** The scored records whose answer is to be leaned on least: those of low confidence. */
final readonly class Doubtful
{
    private const KEPT = 86400 * 30;
    private const FORM = 1;
    /** Up to here they are counted before anybody asks. */
    private const AT_ONCE = 50000;

    public function __construct(
        private ScoredTables $scored,
        private ScoredFile $file,
        private OpenCells $reader,
        private CacheInterface $cache,
    ) {
    }

    /** How many there are; null where that takes longer than a page may, or cannot be told. */
    public function count(Scoring $scoring): ?int
    {
        if (!$scoring->isDone() || $scoring->table()->rows() > self::AT_ONCE) {
            return null;
        }
        try {
            return \count($this->rows($scoring));
        } catch (Problem) {
            // The rows on which its trial was judged have changed since: how sure it is can no longer be told.
            return null;
        }
    }

    /** @return list<int> rows from 0, in the order of the table */
    public function rows(Scoring $scoring): array
    {
        // Numbers are given again where a backup is brought back; records are not.
        $of = [$scoring->id(), $scoring->answers()->id(), $scoring->table()->fingerprint(), $scoring->trial()->id()];
        $key = 'doubtful.'.Stamp::of([self::FORM, ...$of]);
        $kept = $this->cache->get($key, function (ItemInterface $item) use ($scoring): string {
            $item->expiresAfter(self::KEPT);

            return pack('V*', ...$this->found($scoring));
        });

        return array_values(unpack('V*', $kept) ?: []);
    }

    /** @return list<int> */
    private function found(Scoring $scoring): array
    {
        $sure = $this->file->sure($scoring->trial());
        $made = $scoring->trial()->question()->table();
        $beyond = null === $made ? null : Beyond::of($made, array_map(strval(...), array_keys($scoring->matching())));
        $reads = array_values(array_unique(array_values($scoring->matching())));
        $found = [];
        $row = 0;
        $walk = $this->reader->walk($scoring->table(), $reads);
        foreach ($this->scored->stream($scoring) as $frame => $lines) {
            $part = $walk->at($frame);
            $said = $beyond?->said(Table::of(array_map($part->column(...), $scoring->matching()), $part->rows)) ?? [];
            foreach ($lines as $i => $line) {
                if (null === $line['why'] && Confidence::Low === Confidence::of($sure, $scoring->task(), $line, isset($said[$i]))) {
                    $found[] = $row;
                }
                ++$row;
            }
        }

        return $found;
    }
}
