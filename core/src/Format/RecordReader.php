<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** Hands out the records of a source, some at a time, column by column. */
interface RecordReader
{
    /** @return list<string> known once the first batch has been asked for */
    public function names(): array;

    /** @return list<string> what was mended, in sentences */
    public function repairs(): array;

    public function records(): int;

    /**
     * @param int<1, max>     $size  rows per batch; the last may be shorter
     * @param array{int, int} $share [i, n]: fill every n-th column from the i-th on, leave the others empty
     *
     * @return \Generator<int, Batch> records, some thousands at a time
     */
    public function batches(int $size = CsvReader::BATCH, array $share = [0, 1]): \Generator;
}
