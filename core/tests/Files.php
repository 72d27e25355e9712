<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests;

use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;

/** Reads reference cases and small texts. */
final class Files
{
    public static function folder(string $case): string
    {
        return (getenv('DOKIMOS_REFERENCE') ?: __DIR__.'/reference').'/'.$case;
    }

    /** @return array<string, mixed> */
    public static function expected(string $case): array
    {
        /** @var array<string, mixed> */
        return json_decode((string) file_get_contents(self::folder($case).'/expected.json'), true, 512, \JSON_THROW_ON_ERROR);
    }

    /** @param array<string, Kind> $kinds */
    public static function table(string $path, array $kinds = []): Table
    {
        return (new CsvFile($path))->read($kinds)[0];
    }

    /** @param array<string, Kind> $kinds */
    public static function ofText(string $csv, array $kinds = []): Table
    {
        $file = tempnam(sys_get_temp_dir(), 'dokimos');
        \assert(false !== $file);
        file_put_contents($file, $csv);
        try {
            return self::table($file, $kinds);
        } finally {
            unlink($file);
        }
    }
}
