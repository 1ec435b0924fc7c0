-- Records are read whole at every verification, and LZ4 unpacks several times as fast as PostgreSQL's own packing.
-- A PostgreSQL that was built without it keeps its own.
DO $$
BEGIN
    ALTER TABLE inspections
        ALTER COLUMN record SET COMPRESSION lz4,
        ALTER COLUMN taken SET COMPRESSION lz4,
        ALTER COLUMN before SET COMPRESSION lz4,
        ALTER COLUMN after SET COMPRESSION lz4;
EXCEPTION WHEN feature_not_supported THEN NULL;
END $$;
