package media

import (
	"bytes"
	"errors"
	"fmt"
	"io"
)

// Upload is a file that lies on the disk until there is memory to read it.
type Upload = *io.SectionReader

// UploadOf returns bytes that are in memory already as an Upload.
func UploadOf(data []byte) Upload {
	return io.NewSectionReader(bytes.NewReader(data), 0, int64(len(data)))
}

// ReadUpload reads the whole file.
func ReadUpload(file Upload) ([]byte, error) {
	data := make([]byte, file.Size())
	if _, err := file.ReadAt(data, 0); err != nil && !errors.Is(err, io.EOF) {
		return nil, fmt.Errorf("read an upload: %w", err)
	}
	return data, nil
}
