<?php

declare(strict_types=1);

namespace ZipStream;

/** Zips files given one by one into a stream. */
final class ZipStream
{
    private readonly \ZipArchive $zip;
    private readonly string $path;

    /** @param resource $outputStream */
    public function __construct(private mixed $outputStream, bool $enableZip64 = false, bool $sendHttpHeaders = false, bool $defaultEnableZeroHeader = false)
    {
        $this->path = (string) tempnam(sys_get_temp_dir(), 'zip');
        $this->zip = new \ZipArchive();
        $this->zip->open($this->path, \ZipArchive::OVERWRITE);
    }

    public function addFile(string $fileName, string $data): void
    {
        $this->zip->addFromString($fileName, $data);
    }

    public function finish(): int
    {
        $this->zip->close();
        $from = fopen($this->path, 'r');
        $bytes = false === $from ? 0 : (int) stream_copy_to_stream($from, $this->outputStream);
        unlink($this->path);

        return $bytes;
    }
}
